// The list of batches: found as one types, and what is not saved yet in this tab is marked.
import { NoAnswer, answered, fault } from "./answer.js";

const PAUSE_MS = 150;

export function startFinder(finder) {
  const found = document.getElementById("found");
  const unsaved = document.getElementById("find-unsaved");
  let pause = 0;
  let asked = null;

  const drafts = () => Object.keys(sessionStorage).filter((k) => k.startsWith("draft-")).map((k) => k.slice("draft-".length));

  function mark() {
    const open = drafts();
    unsaved.hidden = open.length === 0;
    const only = unsaved.querySelector("input").checked && open.length > 0;
    for (const row of found.querySelectorAll("[data-id]")) {
      const draft = open.includes(row.dataset.id);
      row.hidden = only && !draft;
      const name = row.querySelector(".who .name");
      name.querySelector(".draft")?.remove();
      if (draft) name.insertAdjacentHTML("beforeend", ' <small class="draft">not saved</small>');
    }
    for (const day of found.querySelectorAll("section")) day.hidden = !day.querySelector("[data-id]:not([hidden])");
  }

  async function find() {
    asked?.abort();
    const mine = (asked = new AbortController());
    const query = new URLSearchParams([...new FormData(finder)].filter(([, v]) => v));
    const address = "/batches" + (query.size ? "?" + query : "");
    try {
      const answer = await answered(fetch(address, { signal: mine.signal }));
      const page = new DOMParser().parseFromString(await answered(answer.text()), "text/html");
      const fresh = page.getElementById("found");
      if (!answer.ok || !fresh) throw new NoAnswer(String(answer.status));
      found.replaceChildren(...fresh.childNodes);
      history.replaceState(null, "", address);
      mark();
    } catch (err) {
      if (err.name === "AbortError") return;
      if (!(err instanceof NoAnswer)) fault(err);
      finder.querySelector("button").hidden = false; // asked by hand then
    }
  }

  const changed = (e) => {
    if (unsaved.contains(e.target)) return mark();
    clearTimeout(pause);
    pause = setTimeout(find, e.target.type === "search" ? PAUSE_MS : 0);
  };
  finder.addEventListener("input", changed);
  finder.addEventListener("change", changed);
  finder.addEventListener("submit", (e) => {
    e.preventDefault();
    find();
  });
  finder.querySelector("button").hidden = true;
  if (location.hash === "#find") finder.querySelector("input[type=search]").focus();
  mark();
}
