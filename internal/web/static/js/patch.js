// patch makes the inside of an element what another holds, which stays whole, and leaves
// alone every part that is already so: less is drawn anew, and what has the focus mostly
// keeps it.
export function patch(now, then) {
  const fresh = then.childNodes;
  if (now.childNodes.length !== fresh.length) now.replaceChildren(...[...fresh].map(copy));
  else [...now.childNodes].forEach((old, i) => become(old, fresh[i]));
}

const FIELDS = "input, select, textarea, option";
const copy = (node) => document.importNode(node, true);

function become(old, fresh) {
  if (old.isEqualNode(fresh)) return;
  if (old.nodeType !== fresh.nodeType || old.nodeName !== fresh.nodeName) old.replaceWith(copy(fresh));
  else if (old.nodeType !== Node.ELEMENT_NODE) old.data = fresh.data;
  else if (old.matches(FIELDS)) old.replaceWith(copy(fresh));
  else {
    for (const { name } of [...old.attributes]) if (!fresh.hasAttribute(name) && !(name === "open" && old.matches("details"))) old.removeAttribute(name);
    for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
    patch(old, fresh);
  }
}
