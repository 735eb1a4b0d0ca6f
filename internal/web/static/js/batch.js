// The batch form: every change is worked out by the server and swapped in where it shows.
// Fields stay as they are, so focus, selection and scroll are never lost; a draft of what
// is not saved is kept in the tab.
import { parse, stepped } from "./number.js";
import { patch } from "./patch.js";

const WAIT_MS = 0; // changes of one moment are asked about at once; a stale question is taken back

export function startBatch(form) {
  const draftKey = "draft-" + form.dataset.id;
  let pending = null;
  let timer = 0;
  let opening = false; // a station has been asked for and is not there yet

  const atField = form.elements.was_at;
  const values = () => new URLSearchParams(new FormData(form));

  function later() {
    pending?.abort(); // its answer would put back what has just been changed
    clearTimeout(timer);
    timer = setTimeout(() => work(), WAIT_MS);
  }

  // work asks for the form worked out; a newly opened station's rail and sheet come whole.
  async function work(set, body = values()) {
    clearTimeout(timer);
    pending?.abort();
    const mine = (pending = new AbortController());
    keepDraft(body);
    if (set) body.append("set", set);
    try {
      const answer = await fetch(form.getAttribute("action"), { method: "POST", body, signal: mine.signal, headers: opening ? {} : { "X-Hollen-Part": "figures" } });
      const text = await answer.text();
      await released();
      if (mine.signal.aborted) return;
      const page = new DOMParser().parseFromString(text, "text/html");
      const fresh = page.getElementById("batch");
      if (!answer.ok || !fresh) throw new Error(page.querySelector("h1")?.textContent || "The answer cannot be read.");
      const opened = opening;
      opening = false;
      if (opened) form.querySelector("#rails").replaceWith(fresh.querySelector("#rails"));
      swap(fresh, opened);
      if (set) keepDraft(values());
    } catch (err) {
      if (err.name !== "AbortError") say("Not worked out: " + (err instanceof TypeError ? "Hollen does not answer. What you typed is kept." : err.message));
    }
  }

  // released waits until nothing is pressed: what is drawn anew between press and release
  // would never be clicked.
  let pressed = false;
  form.addEventListener("pointerdown", () => (pressed = true));
  for (const end of ["pointerup", "pointercancel"]) addEventListener(end, () => setTimeout(() => (pressed = false)));
  async function released() {
    while (pressed) await new Promise((done) => setTimeout(done, 10));
  }

  function say(text) {
    document.getElementById("state").textContent = text;
  }

  // swap takes over what is worked out. While a field is in error the last good result
  // stays and only the errors are shown, unless another station was opened.
  function swap(fresh, opened) {
    const bad = Number(fresh.querySelector("#sheet").dataset.errors) > 0 && !opened;
    const focused = document.activeElement;
    const focusedId = focused?.id;
    const focusedName = focused?.closest("#sheet, #spine") ? [focused.name, focused.value] : null;
    for (const now of [form, ...form.querySelectorAll("[data-live]")]) {
      const then = now === form ? fresh : fresh.querySelector("#" + CSS.escape(now.id));
      if (!then) continue;
      const isError = now.classList.contains("err");
      if (bad && !isError && now.id !== "state" && now.dataset.live !== "hidden") continue;
      switch (now.dataset.live) {
        case "html": patch(now, then); break;
        case "text": if (now.textContent !== then.textContent) now.textContent = then.textContent; break;
        case "hidden": now.hidden = then.hidden; break;
        case "placeholder": now.placeholder = then.placeholder; break;
        case "style": if (now.getAttribute("style") !== then.getAttribute("style")) now.setAttribute("style", then.getAttribute("style")); break;
      }
    }
    for (const field of form.querySelectorAll("input[id], select[id]")) {
      const then = fresh.querySelector("#" + CSS.escape(field.id));
      if (!then) continue;
      field.toggleAttribute("aria-invalid", then.hasAttribute("aria-invalid"));
      if (then.hasAttribute("aria-invalid")) {
        field.setAttribute("aria-invalid", "true");
        field.setAttribute("aria-describedby", "e-" + field.id);
      } else if (!bad && field !== focused && field.type !== "checkbox" && field.value !== then.value && parse(field.value) !== parse(then.value)) {
        field.value = then.value;
      }
    }
    // Fields of other stations ride along; what a button has set stands in them, too.
    if (!bad) {
      const carried = new Map([...fresh.querySelectorAll("#rails > input[type=hidden]")].map((f) => [f.name, f.value]));
      for (const field of form.querySelectorAll("#rails > input[type=hidden]")) if (carried.has(field.name)) field.value = carried.get(field.name);
      syncSlides();
    }
    // What had the focus may have been drawn anew.
    if (document.activeElement !== focused) {
      const again = focusedId ? document.getElementById(focusedId)
        : focusedName && [...form.querySelectorAll("#sheet button, #spine button")].find((b) => b.name === focusedName[0] && b.value === focusedName[1]);
      again?.focus({ preventScroll: true });
    }
    if (fresh.querySelector("#state").textContent.trim() === "" && !bad) sessionStorage.removeItem(draftKey);
  }

  // Sliders mirror the field they belong to.
  function paint(slide) {
    slide.style.setProperty("--at", (100 * (slide.value - slide.min)) / (slide.max - slide.min) + "%");
  }
  function syncSlides() {
    for (const slide of form.querySelectorAll(".slide")) {
      const of = document.getElementById(slide.dataset.for);
      const n = parse(of.value || of.placeholder);
      if (!Number.isNaN(n) && slide !== document.activeElement) slide.value = n;
      paint(slide);
    }
  }

  // where is a station, or doctor:sign.
  function openStation(where) {
    const [at, sign] = where.split(":");
    form.elements.from.value = at === "doctor" ? atField.value : "";
    atField.value = at;
    form.querySelector("button[name=at]").value = at;
    history.replaceState(null, "", "/batches/" + form.dataset.id + "?at=" + at);
    opening = true;
    work(sign && "doctor.sign=" + sign + "&doctor.a=");
  }

  form.addEventListener("input", (e) => {
    const slide = e.target.closest(".slide");
    if (slide) {
      document.getElementById(slide.dataset.for).value = slide.value;
      paint(slide);
    }
    later();
  });
  form.addEventListener("change", later);
  form.addEventListener("click", (e) => {
    const button = e.target.closest("button");
    if (!button || button.hasAttribute("formaction")) return;
    if (button.name === "at") openStation(button.value);
    else if (button.dataset.poke) {
      if (e.detail === 0) pokeBegins(button); // by key
      if (stopping || performance.now() - poked > HOLD_MS) pokeEnds(button);
    }
    else if (button.dataset.step) step(button.parentElement.querySelector("input"), Number(button.dataset.step));
    else if (button.name === "set") work(button.value); // path=value&…, which the server puts into the fields
    else return;
    e.preventDefault();
  });
  form.addEventListener("keydown", (e) => {
    if (e.target.matches("input[data-by]") && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
      step(e.target, e.key === "ArrowUp" ? 1 : -1);
      e.preventDefault();
    } else if (e.key === "Enter" && e.target.matches("input")) {
      work();
      e.preventDefault();
    }
  });

  // poke times how long the dough takes to come half back: held down from the poke until then,
  // or one tap to start and one to stop.
  const HOLD_MS = 350;
  let poked = 0;
  let stopping = false; // the press that is on ends a watch already running
  function pokeEnds(button) {
    document.getElementById(button.dataset.poke).value = Math.min((performance.now() - poked) / 1000, 60).toFixed(1);
    poked = 0;
    button.textContent = button.dataset.idle;
    work();
  }
  function pokeBegins(button) {
    stopping = poked > 0;
    if (stopping) return;
    poked = performance.now();
    button.textContent = button.dataset.run;
  }
  form.addEventListener("pointerdown", (e) => {
    const button = e.target.closest("[data-poke]");
    if (button) pokeBegins(button);
  });

  function step(input, n) {
    const next = stepped(input.value || input.placeholder, n, input.dataset);
    if (next === null) return;
    input.value = next;
    work();
  }

  // Drafts: what is typed and not saved outlives a reload of the tab.
  function keepDraft(body) {
    sessionStorage.setItem(draftKey, body.toString());
  }
  function restoreDraft() {
    const kept = sessionStorage.getItem(draftKey);
    if (document.querySelector(".clash, .told.is-warn")) {
      keepDraft(values());
      return;
    }
    if (!kept) return;
    if (kept === values().toString() || new URLSearchParams(location.search).has("saved")) {
      sessionStorage.removeItem(draftKey);
      return;
    }
    const draft = new URLSearchParams(kept);
    if (draft.get("units") !== form.elements.units.value) {
      work(null, draft); // typed in other units: the server turns it into these
      return;
    }
    for (const [path, value] of draft) {
      const field = form.elements[path];
      if (!field || path === "was_at" || path === "at" || path === "from" || path === "units") continue;
      if (field instanceof RadioNodeList) {
        for (const f of field) if (f.type === "checkbox") f.checked = draft.getAll(path).includes("yes");
      } else {
        field.value = value;
      }
    }
    work();
  }

  form.addEventListener("submit", (e) => {
    pending?.abort();
    clearTimeout(timer);
    if (e.submitter?.formAction?.endsWith(".json")) return;
    keepDraft(values());
  });
  document.addEventListener("click", (e) => {
    for (const menu of document.querySelectorAll(".menu[open]")) if (!menu.contains(e.target)) menu.open = false;
  });

  restoreDraft();
  // A reload asks for the batch, not for the answer to a form, nor for "Saved" again.
  history.replaceState(null, "", "/batches/" + form.dataset.id + "?at=" + atField.value);
  syncSlides();
}
