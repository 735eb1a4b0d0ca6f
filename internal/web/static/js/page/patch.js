// patch makes the inside of an element what another holds, which stays whole, and leaves
// alone every part that is already so: less is drawn anew, and what has the focus mostly
// keeps it.
export function patch(now, then) {
  const old = [...now.childNodes];
  const fresh = [...then.childNodes];
  // What is alike at the beginning and at the end stays; between, one becomes the other as far
  // as there are two.
  while (old.length && fresh.length && old[0].isEqualNode(fresh[0])) old.shift(), fresh.shift();
  let after = null;
  while (old.length && fresh.length && old.at(-1).isEqualNode(fresh.at(-1))) (after = old.pop()), fresh.pop();
  const both = Math.min(old.length, fresh.length);
  for (let i = 0; i < both; i++) become(old[i], fresh[i]);
  for (const gone of old.slice(both)) gone.remove();
  for (const come of fresh.slice(both)) now.insertBefore(copy(come), after);
}

const FIELDS = "input, select, textarea, option";
const copy = (node) => document.importNode(node, true);

// typedInto says whether old is the field somebody is typing in: it stays, with what stands in it.
function typedInto(old, fresh) {
  return old === document.activeElement && old.matches("input, textarea") && old.id === fresh.id && old.name === fresh.name;
}

function become(old, fresh) {
  if (old.nodeType !== fresh.nodeType || old.nodeName !== fresh.nodeName) old.replaceWith(copy(fresh));
  else if (old.nodeType !== Node.ELEMENT_NODE) old.data = fresh.data;
  else if (old.matches(FIELDS) && !typedInto(old, fresh)) old.replaceWith(copy(fresh));
  else {
    for (const { name } of [...old.attributes]) if (!fresh.hasAttribute(name) && !(name === "open" && old.matches("details"))) old.removeAttribute(name);
    for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
    patch(old, fresh);
  }
}
