// A day: tasks are dragged in time, or moved by the arrow keys; the page follows what happens elsewhere. What is sent is the form that
// stands on the page as well, so that the day works without this.

import { FAULT_WORDS, NoAnswer, answered, fault } from "./answer.js";

const STEP = 5; // min, of a key or a drag
const LOOK = 2000; // ms between looks for what has changed

let busy = false; // dragged, or being sent
let waiting = 0; // the arrow keys are still being pressed

export function startDay(page) {
  const root = () => document.getElementById("day");
  if (document.documentElement.dataset.may !== "looks") {
    document.addEventListener("pointerdown", (e) => drag(e, root()));
    document.addEventListener("keydown", (e) => keyed(e, root()));
  }
  document.addEventListener("click", (e) => {
    if (e.target.closest?.(".day-bar")?.dataset.moved) e.preventDefault();
  }, true);
  atNow();
  follow(page, () => root()?.dataset, () => swap(location.href));
}

// Where the picture is wider than the window, what is on now is in it.
function atNow() {
  const chart = document.querySelector(".day-chart"), now = chart?.querySelector(".now-line");
  if (now) chart.scrollLeft += now.getBoundingClientRect().left - chart.getBoundingClientRect().left - chart.clientWidth / 3;
}

// Looks whether the day has moved, and shows it anew where it has and nothing is being typed.
export function follow(el, data, again) {
  let minute = null;
  setInterval(async () => {
    if (document.hidden || busy || typing()) return;
    try {
      const r = await answered(fetch("/days/" + data().date + "/stamp", { headers: { Accept: "application/json" } }));
      if (!r.ok || !r.headers.get("content-type")?.includes("json")) return;
      const now = await answered(r.json());
      const moved = now.stamp !== data().stamp || (minute !== null && now.minute !== minute);
      minute = now.minute;
      if (moved && !busy && !typing()) again();
    } catch (err) {
      if (!(err instanceof NoAnswer)) fault(err); // where the server is away the page stays as it is
    }
  }, LOOK);
}

const typing = () => document.activeElement?.matches?.("input:not([type=checkbox]), textarea, select") || document.querySelector("dialog[open], details.menu[open]");

// Puts the page’s day in place of this one; what is open and focused stays so.
function show(html) {
  const next = new DOMParser().parseFromString(html, "text/html").getElementById("day");
  const old = document.getElementById("day");
  if (!next) return false;
  const open = [...old.querySelectorAll("details")].map((d) => d.open);
  const task = document.activeElement?.closest?.("[data-task]")?.dataset.task;
  const scroll = old.querySelector(".day-chart")?.scrollLeft ?? 0;
  old.replaceWith(document.adoptNode(next));
  [...next.querySelectorAll("details")].forEach((d, i) => open.length === next.querySelectorAll("details").length && (d.open = open[i]));
  const chart = next.querySelector(".day-chart");
  if (chart) chart.scrollLeft = scroll;
  if (task) next.querySelector('[data-task="' + CSS.escape(task) + '"]')?.focus({ preventScroll: true });
  document.dispatchEvent(new Event("drawn"));
  return true;
}

async function swap(url) {
  try {
    const r = await answered(fetch(url, { headers: { Accept: "text/html" } }));
    if (r.ok) show(await answered(r.text()));
  } catch (err) {
    if (!(err instanceof NoAnswer)) fault(err); // where the server is away the page stays as it is
  }
}

// Sends a task to another minute; what cannot be is said on the page.
async function move(root, task, to) {
  busy = true;
  const field = (name) => root.querySelector('input[name="' + name + '"]')?.value ?? "";
  try {
    const body = new URLSearchParams({ act: "move", task, to_min: String(to), version: root.dataset.version, db: field("db") });
    const r = await answered(fetch("/days/" + root.dataset.date, { method: "POST", body }));
    const stood = starts();
    if (!show(await answered(r.text()))) throw new NoAnswer("what came is no day");
    if (r.redirected) history.replaceState(null, "", r.url.split("#")[0]);
    const says = document.getElementById("day-says");
    if (r.ok && says && !says.textContent.trim()) say(says, task, stood);
  } catch (err) {
    if (!(err instanceof NoAnswer)) fault(err);
    const says = document.getElementById("day-says");
    if (says) says.textContent = "Not moved: " + (err instanceof NoAnswer ? "the server is not there." : FAULT_WORDS);
    place(root, task, null);
  } finally {
    busy = false;
  }
}

// starts are the minutes everything starts at, as shown.
const starts = () => new Map([...document.querySelectorAll(".day-bar[data-task]")].map((bar) => [bar.dataset.task, bar.dataset.start]));

// say tells what was moved, and how much moved with it.
function say(says, task, stood) {
  const bar = document.querySelector('[data-task="' + CSS.escape(task) + '"]');
  if (!bar) return;
  const others = [...starts()].filter(([key, start]) => key !== task && stood.has(key) && stood.get(key) !== start).length;
  const p = document.createElement("p");
  p.className = "told";
  p.textContent = "Moved. " + bar.getAttribute("aria-label") + ". " +
    (others === 0 ? "Nothing else moves." : others === 1 ? "One more moves with it." : others + " others move with it.");
  says.replaceChildren(p);
}

const chartOf = (root) => root?.querySelector(".day-lanes");
const bars = (root, task) => root.querySelectorAll('[data-task="' + CSS.escape(task) + '"]');

// Shows a task where it would be; null: where it is.
function place(root, task, start) {
  for (const bar of bars(root, task)) {
    const off = start === null ? 0 : (start - Number(bar.dataset.start)) * Number(chartOf(root).dataset.scale);
    if (off) bar.setAttribute("transform", "translate(" + off + " 0)");
    else bar.removeAttribute("transform");
    bar.classList.toggle("is-dragged", off !== 0);
  }
}

function drag(e, root) {
  const bar = e.target.closest?.(".day-bar[data-task]");
  if (!bar || e.button !== 0 || busy) return;
  const svg = chartOf(root), scale = Number(svg.dataset.scale) * (svg.getBoundingClientRect().width / svg.viewBox.baseVal.width);
  const from = e.clientX, was = Number(bar.dataset.start), task = bar.dataset.task;
  let to = was;
  const at = (x) => Math.round((was + (x - from) / scale) / STEP) * STEP;
  const moving = (m) => {
    if (Math.abs(m.clientX - from) < 6 && to === was) return;
    busy = true;
    bar.dataset.moved = "yes";
    to = at(m.clientX);
    place(root, task, to);
    m.preventDefault();
  };
  const done = (m) => {
    removeEventListener("pointermove", moving);
    removeEventListener("pointerup", done);
    removeEventListener("pointercancel", done);
    busy = false;
    setTimeout(() => delete bar.dataset.moved, 0);
    if (m.type === "pointercancel" || to === was) place(root, task, null);
    else move(root, task, to);
  };
  addEventListener("pointermove", moving);
  addEventListener("pointerup", done);
  addEventListener("pointercancel", done);
}
addEventListener("dragstart", (e) => e.target.closest?.(".day-bar") && e.preventDefault());

function keyed(e, root) {
  const bar = e.target.closest?.(".day-bar[data-task]");
  if (!bar || e.ctrlKey || e.metaKey || e.altKey || (e.key !== "ArrowLeft" && e.key !== "ArrowRight")) return;
  e.preventDefault();
  if (busy && !waiting) return;
  busy = true;
  const by = (e.key === "ArrowLeft" ? -1 : 1) * (e.shiftKey ? 1 : STEP);
  bar.dataset.to = Number(bar.dataset.to ?? bar.dataset.start) + by;
  place(root, bar.dataset.task, Number(bar.dataset.to));
  clearTimeout(waiting);
  waiting = setTimeout(() => {
    waiting = 0;
    const to = Number(bar.dataset.to);
    delete bar.dataset.to;
    if (to === Number(bar.dataset.start)) {
      busy = false;
      place(root, bar.dataset.task, null);
    } else {
      move(root, bar.dataset.task, to);
    }
  }, 500);
}
