// The batch form: every change is worked out by the server and swapped in where it shows.
// Fields stay as they are, so focus, selection and scroll are never lost; a draft of what
// is not saved is kept in the tab.
import { parse, shown, stepped } from "../page/number.js";
import { patch } from "../page/patch.js";
import { line } from "../page/line.js";
import { FAULT_WORDS, NoAnswer, fault } from "../page/answer.js";

// What the server says instead of a batch.
class Told extends Error {}

// What a form says of the page it is on, not of the batch.
const PAGES = ["was_at", "at", "from", "units", "page"];
// Lists that are built line by line; a page holds only the lines there are.
const LINES = /^(knead\.own_steps|roll\.own_passes)\./;

export function startBatch(form) {
  const draftKey = "draft-" + form.dataset.draft;
  // What this page keeps goes by its mark. Saving it sets a cookie of that mark, so that its draft is known
  // for what it is even where the page that follows is left before its scripts run.
  const mark = () => (form.elements.page.value = Math.random().toString(36).slice(2));
  mark();
  addEventListener("pageshow", (e) => e.persisted && mark()); // come back to, it is another page
  let pending = null; // the question that is out
  let asked = ""; // the form it was asked about, or was last
  let changed = false; // since then
  let opening = false; // a station has been asked for and is not there yet

  const atField = form.elements.was_at;
  const ask = line(form.getAttribute("action"));
  const values = () => new URLSearchParams(new FormData(form));
  // said is what a form says, without what the page carries to work it out.
  const said = (body) => [...body].filter(([path]) => path !== "stood" && path !== "page").join("&");

  // later asks at once, unless nothing has changed since it last asked. While a question is out
  // the newest change waits for its answer.
  function later() {
    const body = values();
    if (said(body) === asked) return;
    changed = pending !== null;
    if (!changed) work(null, body);
    else keepDraft(body);
  }

  const SIGNED_OUT = "you are signed out. What you typed is kept. ";
  let trying = 0;
  function signIn() {
    const link = document.createElement("a");
    link.href = "/sign-in";
    link.target = "_blank";
    link.textContent = "Sign in, and come back";
    return link;
  }

  // work asks for the form worked out; a newly opened station's rail and sheet come whole.
  async function work(set, body = values(), name = "set") {
    pending?.abort();
    const mine = (pending = new AbortController());
    const stood = values(); // what has been changed since is left alone
    asked = set ? "" : said(body);
    changed = false;
    keepDraft(body);
    if (set) body.append(name, set);
    try {
      const { ok, out, text } = await ask(body, { signal: mine.signal, whole: opening });
      await released();
      if (mine.signal.aborted) return;
      if (out) throw new Told(SIGNED_OUT);
      const page = parsed(text);
      const fresh = page.querySelector("#batch");
      if (!ok || !fresh) throw new Told(page.querySelector("h1")?.textContent || "The answer cannot be read.");
      const opened = opening;
      opening = false;
      if (opened) redraw(fresh, stood);
      swap(fresh, opened, stood);
      if (set) keepDraft(values());
    } catch (err) {
      if (err.name === "AbortError") return;
      asked = "";
      if (!(err instanceof NoAnswer || err instanceof Told)) {
        fault(err);
        return say("fault", "Not worked out: " + FAULT_WORDS);
      }
      say(err.message === SIGNED_OUT ? "signed-out" : "unanswered", "Not worked out: " + (err instanceof NoAnswer ? "Hollen does not answer. What you typed is kept." : err.message));
      if (err.message === SIGNED_OUT) document.getElementById("state").append(signIn());
      clearTimeout(trying); // and again, until it is
      trying = setTimeout(() => pending || work(set, values(), name), AGAIN_MS);
    } finally {
      if (pending === mine) pending = null;
    }
    if (changed) later();
  }

  // redraw puts another rail in; what has been changed since the form was asked about stays changed.
  function redraw(fresh, stood) {
    const since = [...values()].filter(([path, value]) => !PAGES.includes(path) && stood.get(path) !== value);
    form.querySelector("#rails").replaceWith(document.importNode(fresh.querySelector("#rails"), true)); // fresh stays whole for what follows
    for (const [path, value] of since) {
      const field = form.elements[path];
      if (!field || field instanceof RadioNodeList) continue;
      field.value = value;
      changed = true;
    }
  }

  // released waits until nothing is pressed: what is drawn anew between press and release
  // would never be clicked. A slider is followed while it is pressed.
  let pressed = false;
  form.addEventListener("pointerdown", (e) => (pressed = !e.target.closest(".slide")));
  for (const end of ["pointerup", "pointercancel"]) addEventListener(end, () => setTimeout(() => (pressed = false)));
  async function released() {
    while (pressed) await new Promise((done) => setTimeout(done, 10));
  }

  // parsed reads a page, or the part of one that a change is answered with; nothing in it runs.
  function parsed(text) {
    if (/^\s*<!doctype/i.test(text)) return new DOMParser().parseFromString(text, "text/html");
    const part = document.createElement("template");
    part.innerHTML = text;
    return part.content;
  }

  // say puts in words how it stands with the batch, under a name for it.
  function say(is, words) {
    const span = document.createElement("span");
    span.dataset.is = is;
    span.textContent = words;
    document.getElementById("state").replaceChildren(span);
  }
  // stands is the name for it: "" where there is nothing to say.
  const stands = (page) => page.querySelector("#state [data-is]")?.dataset.is ?? "";

  // live are the parts of the form that follow the figures, found once a station.
  let live = [];
  function findLive() {
    live = [...form.querySelectorAll("[data-live]")];
  }

  // swap takes over what is worked out of the form as it stood, and writes only what differs. A
  // field in error keeps what was typed; the rest goes on with its last good value.
  function swap(fresh, opened, stood) {
    const were = opened ? null : keys();
    if (opened) {
      findLive();
      requestAnimationFrame(here);
    }
    const bad = Number(fresh.querySelector("#sheet").dataset.errors) > 0;
    const focused = document.activeElement;
    const focusedId = focused?.id;
    const focusedName = focused?.closest("#sheet, #spine") ? [focused.name, focused.value] : null;
    const then = new Map([...fresh.querySelectorAll("[id]")].map((e) => [e.id, e]));
    for (const now of live) take(now, then, focused);
    for (const [id, e] of then) if ("value" in e.dataset || e.localName === "input") takeField(document.getElementById(id), e, stood);
    // Fields of other stations ride along; what differs from what was sent is told.
    for (const told of fresh.querySelectorAll("#rails > input[type=hidden]")) {
      const field = form.querySelector("#rails > input[type=hidden][name='" + CSS.escape(told.name) + "']");
      if (field && field.value !== told.value) field.value = told.value;
    }
    if (bad && wrongBehind()) main.dataset.layer = "full"; // what is wrong shows itself
    syncSlides();
    // What had the focus may have been drawn anew.
    if (document.activeElement !== focused) {
      const again = focusedId ? document.getElementById(focusedId)
        : focusedName && [...form.querySelectorAll("#sheet button, #spine button")].find((b) => b.name === focusedName[0] && b.value === focusedName[1]);
      again?.focus({ preventScroll: true });
    }
    if (stands(fresh) === "" && !bad) forgetDraft();
    if (were) tell(were);
    document.dispatchEvent(new Event("drawn"));
  }

  // keys are the figures of the stations, by name.
  const keys = () => new Map([...form.querySelectorAll("#spine .station")].map((s) => [s.querySelector(".name").textContent, s.querySelector(".key").textContent]));

  // tell says in a line what a change came to, for a while.
  const SAID_MS = 6000;
  let silent = 0;
  function tell(were) {
    const now = [...keys()].filter(([name, key]) => were.get(name) !== key).map(([name, key]) => name + " " + key);
    if (now.length === 0) return;
    const said = document.getElementById("said");
    said.hidden = false;
    said.textContent = "Now: " + now.join("; ");
    clearTimeout(silent);
    silent = setTimeout(() => (said.hidden = true), SAID_MS);
  }

  // take brings one live part up to date. A control's hint and error are told where there are any.
  function take(now, all, focused) {
    const then = all.get(now.id);
    const isError = now.classList.contains("err");
    switch (now.dataset.live) {
      case "html":
        patch(now, then);
        dye(now, then);
        break;
      case "text": {
        const text = then ? then.textContent : "";
        if ((then || isError || all.has("c-" + now.id.slice(2))) && now.textContent !== text) now.textContent = text;
        break;
      }
      case "hidden": {
        // A field with the focus never goes.
        const hide = then?.hidden && !now.contains(focused);
        if (then && now.hidden !== hide) now.hidden = hide;
        break;
      }
    }
  }

  // dye gives a part the colour of the dough, once the figures are drawn: all in it is styled anew.
  function dye(now, then) {
    const style = then.getAttribute("style") ?? "";
    if ((now.getAttribute("style") ?? "") === style) return;
    requestAnimationFrame(() => setTimeout(() => now.setAttribute("style", style)));
  }

  // takeField brings one field up to date: its mark, what Hollen chooses for it, and its value unless
  // it has been changed since.
  function takeField(field, then, stood) {
    if (!field || !form.contains(field)) return;
    const wrong = then.hasAttribute("aria-invalid");
    if (wrong !== field.hasAttribute("aria-invalid")) {
      for (const name of ["aria-invalid", "aria-describedby"]) {
        if (wrong) field.setAttribute(name, then.getAttribute(name));
        else field.removeAttribute(name);
      }
    }
    const value = then.dataset.value ?? then.value, auto = then.dataset.auto ?? then.placeholder ?? "";
    if (field.dataset.live === "placeholder" && field.placeholder !== auto) field.placeholder = auto;
    if (field.type === "checkbox") { // set by a button elsewhere on the page
      const on = then.dataset.value !== undefined ? then.dataset.value !== "" : then.checked;
      if (stood.getAll(field.name).includes("yes") === field.checked) field.checked = on;
      return;
    }
    if (wrong || field === document.activeElement || field.value === value) return;
    if (stood.get(field.name) !== field.value || parse(field.value) === parse(value)) return;
    field.value = value;
  }

  // Sliders mirror the field they belong to.
  function paint(slide) {
    const at = (100 * (slide.value - slide.min)) / (slide.max - slide.min) + "%";
    if (slide.style.getPropertyValue("--at") !== at) slide.style.setProperty("--at", at);
  }
  function syncSlides() {
    for (const slide of form.querySelectorAll(".slide")) {
      const of = document.getElementById(slide.dataset.for);
      const n = parse(of.value || of.placeholder);
      if (!Number.isNaN(n) && slide !== document.activeElement) slide.value = n;
      paint(slide);
    }
  }

  // rearrange moves, repeats, adds or takes out a line of a list; the focus goes with the line.
  async function rearrange(button) {
    const [group, how, at] = button.value.split(":");
    if (how === "out") { // the last line goes, and what has the focus would hold it
      const lines = [...form.querySelectorAll('button[name=list][value^="' + CSS.escape(group + ":out:") + '"]')].filter((x) => x.offsetParent);
      if (lines.at(-1) === button) (lines.at(-2) ?? form.querySelector('button[name=list][value^="' + CSS.escape(group + ":add:") + '"]'))?.focus({ preventScroll: true });
    }
    await work(button.value, values(), "list");
    const to = Number(at) + ({ up: -1, down: 1, again: 1 }[how] ?? 0);
    const next = form.querySelector('button[name=list][value="' + CSS.escape(group + ":" + how + ":" + Math.max(to, 0)) + '"]');
    if (document.activeElement === button && next?.offsetParent) next.focus({ preventScroll: true });
  }

  // A station shows its first layer, or all of it: this browser remembers which stations it shows whole.
  const layers = () => (document.cookie.match(/(?:^|; )layers=([\w.]*)/)?.[1] ?? "").split(".").filter(Boolean);
  const main = form.querySelector("#main");
  function turnLayer(button) {
    const at = atField.value, whole = main.dataset.layer === "full" ? layers().filter((k) => k !== at) : [...layers(), at];
    document.cookie = "layers=" + [...new Set(whole)].join(".") + "; path=/; max-age=31536000; samesite=lax";
    showLayer(button);
  }
  // wrongBehind says whether a field in error stands behind the first layer.
  const wrongBehind = () => Boolean(form.querySelector(".deep [aria-invalid], .deep[aria-invalid]"));
  function showLayer(button) {
    const y = button?.getBoundingClientRect().top;
    const whole = layers().includes(atField.value) || !form.querySelector(".layer") || wrongBehind();
    main.dataset.layer = whole ? "full" : "plain";
    // Folded from its foot, the page stays where the mark is.
    if (button && main.dataset.layer === "plain") scrollBy(0, button.getBoundingClientRect().top - y);
    document.dispatchEvent(new Event("drawn"));
  }

  // where is a station, or doctor:sign. A station is an entry of the browser's history.
  async function openStation(where, back = false) {
    const [at, sign] = where.split(":");
    form.elements.from.value = at === "doctor" ? atField.value : "";
    if (!back && at !== atField.value) history.pushState(null, "", form.dataset.base + "?at=" + at);
    atField.value = at;
    form.querySelector("button[name=at]").value = at;
    opening = true;
    await work(sign && "doctor.sign=" + sign + "&doctor.a=");
    showLayer();
    const top = form.querySelector("#spine").getBoundingClientRect().top;
    if (!back && top < 0) scrollBy(0, top); // it starts at its top
  }
  addEventListener("popstate", () => {
    const at = new URLSearchParams(location.search).get("at") ?? "formula";
    if (at !== atField.value) openStation(at, true);
  });

  // here brings the open station into view on a narrow screen, and names it in the title.
  function here() {
    const row = form.querySelector("#spine ol"), now = row.querySelector("[aria-current]");
    if (now && row.scrollWidth > row.clientWidth) row.scrollLeft = now.offsetLeft - row.offsetLeft - (row.clientWidth - now.offsetWidth) / 2;
    const station = now ? now.querySelector(".name").textContent : "Something wrong";
    document.title = station + ": " + form.querySelector("#title").textContent + " · Hollen";
  }

  form.addEventListener("input", (e) => {
    const slide = e.target.closest(".slide");
    if (slide) {
      document.getElementById(slide.dataset.for).value = shown(slide.value);
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
    else if (button.name === "list") rearrange(button);
    else if (button.name === "layer") turnLayer(button);
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
    document.getElementById(button.dataset.poke).value = shown(Math.min((performance.now() - poked) / 1000, 60).toFixed(1));
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

  // Drafts: what is typed and not saved outlives a reload of the tab. They are written when there
  // is time, and at the latest when the page goes.
  const idle = window.requestIdleCallback ?? setTimeout;
  let draft = null;
  function writeDraft() {
    if (draft !== null) sessionStorage.setItem(draftKey, draft);
    draft = null;
  }
  function keepDraft(body) {
    if (draft === null) idle(writeDraft);
    draft = body.toString();
  }
  function forgetDraft() {
    draft = null;
    sessionStorage.removeItem(draftKey);
  }
  addEventListener("pagehide", writeDraft);
  function restoreDraft() {
    const kept = sessionStorage.getItem(draftKey);
    if (document.querySelector(".clash, .told.is-warn, [data-opened]")) {
      keepDraft(values());
      return;
    }
    if (!kept) return;
    const done = document.cookie.match(/(?:^|; )saved=(\w+)/)?.[1];
    if (said(new URLSearchParams(kept)) === said(values()) || new URLSearchParams(location.search).has("saved") ||
      new URLSearchParams(kept).get("page") === done) {
      forgetDraft();
      return;
    }
    const draft = new URLSearchParams(kept);
    if (draft.get("units") !== form.elements.units.value) {
      work(null, draft); // typed in other units: the server turns it into these
      return;
    }
    if ([...draft].some(([path, value]) => LINES.test(path) && value && value !== "0" && !form.elements[path])) { // lines this page has no place for yet
      draft.set("was_at", atField.value);
      draft.delete("at");
      opening = true;
      work(null, draft);
      return;
    }
    for (const [path, value] of draft) {
      const field = form.elements[path];
      if (!field || PAGES.includes(path)) continue;
      if (field instanceof RadioNodeList) {
        for (const f of field) if (f.type === "checkbox") f.checked = draft.getAll(path).includes("yes");
      } else {
        field.value = value;
      }
    }
    work();
  }

  // A save that finds no server is tried again, and says so; what the server has to say itself, an error beside
  // its field or another window's changes, comes as a page.
  const AGAIN_MS = 3000;
  let saving = false, passing = false;
  async function save(button) {
    if (saving) return;
    saving = true;
    for (;;) {
      const body = values();
      const answer = await fetch(button.formAction, { method: "POST", body, redirect: "manual" }).catch(() => null);
      if (answer?.type === "opaqueredirect") {
        leaving = true;
        location.assign(form.dataset.base + "?at=" + atField.value + "&saved=1");
        return;
      }
      if (answer && answer.status < 500) {
        saving = false;
        passing = true;
        form.requestSubmit(button);
        return;
      }
      keepDraft(body);
      writeDraft();
      say("unkept", "Not saved: " + (answer ? "the database does not answer." : "Hollen does not answer.") + " It is tried again; what you typed is kept.");
      await new Promise((done) => setTimeout(done, AGAIN_MS));
    }
  }

  // Leaving with something that is not saved asks; on pages of Hollen a draft is kept, and back again at the batch.
  let leaving = false;
  const unsaved = () => !["", "saved"].includes(stands(document));
  addEventListener("beforeunload", (e) => {
    if (!leaving && unsaved()) e.preventDefault();
  });
  document.addEventListener("click", (e) => {
    const link = e.target.closest("a[href]");
    if (link && link.origin === location.origin && link.id !== "keys-open") leaving = true;
  }, true);
  addEventListener("pageshow", () => ([leaving, passing] = [false, false]));

  form.addEventListener("submit", (e) => {
    if (e.submitter?.id === "save" && !passing) {
      e.preventDefault();
      pending?.abort();
      save(e.submitter);
      return;
    }
    passing = false;
    leaving = !e.submitter?.formAction?.endsWith(".json");
    pending?.abort();
    if (e.submitter?.formAction?.endsWith(".json")) return;
    // The draft is written now, and no later: the next page may be there before this one goes,
    // and would find a draft of what it has just saved.
    const body = values();
    asked = said(body);
    changed = false;
    keepDraft(body);
    writeDraft();
  });
  document.getElementById("discard")?.addEventListener("click", () => {
    forgetDraft();
    leaving = true;
    location.assign(form.dataset.base + "?at=" + atField.value);
  });
  findLive();
  here();
  restoreDraft();
  // A reload asks for the batch, not for the answer to a form, nor for "Saved" again.
  history.replaceState(null, "", form.dataset.base + "?at=" + atField.value);
  syncSlides();
}
