// A day: tasks are dragged in time, or taken in hand and moved by keys; the page follows what happens elsewhere. What is sent is the form that
// stands on the page as well, so that the day works without this.

import { FAULT_WORDS, NoAnswer, answered, fault } from "../page/answer.js";

const STEP = 5; // min, of a key or a drag
const LOOK = 2000; // ms between looks for what has changed

let busy = false; // dragged, in hand, or being sent

export function startDay(page) {
  const root = () => document.getElementById("day");
  if (document.documentElement.dataset.may !== "looks") {
    document.addEventListener("pointerdown", (e) => drag(e, root()));
    document.addEventListener("keydown", (e) => keyed(e, root()));
  }
  document.addEventListener("click", (e) => {
    const bar = e.target.closest?.(".day-bar"), away = e.target.closest?.(".day-task .away");
    if (bar?.dataset.moved) e.preventDefault();
    else if (e.button === 0 && !e.ctrlKey && !e.metaKey && !e.shiftKey && (away || bar?.hasAttribute("href"))) {
      e.preventDefault();
      if (away) close(root());
      else open(bar);
    }
  }, true);
  document.addEventListener("keydown", (e) => {
    if (e.key === "Escape" && !inHand && document.querySelector(".day-task.beside")) close(root());
  });
  addEventListener("resize", settle);
  document.addEventListener("drawn", settle);
  atNow();
  settle();
  focusAgain();
  follow(page, () => root()?.dataset, () => swap(location.href));
}

// open shows what can be done with a task beside its bar; the address says which, so that a reload shows it again.
async function open(bar) {
  const url = new URL(bar.getAttribute("href"), location.href);
  url.hash = "";
  await swap(url);
  history.replaceState(null, "", url);
  document.querySelector("#task-head")?.focus({ preventScroll: true });
}

// close puts it away; the focus goes back to the bar.
async function close(root) {
  const task = document.querySelector(".day-task input[name=task]")?.value ?? "";
  document.getElementById("task")?.remove();
  const url = "/days/" + root.dataset.date;
  history.replaceState(null, "", url);
  if (task) document.querySelector('.day-bar[data-task="' + CSS.escape(task) + '"]')?.focus({ preventScroll: true });
}

// settle puts what is said of a task under its bar, within the window and off its lane.
function settle() {
  const box = document.getElementById("task"), page = document.querySelector(".day-page");
  const task = new URLSearchParams(location.search).get("task") ?? box?.querySelector("input[name=task]")?.value;
  const bar = box && task && document.querySelector('.day-bar[data-task="' + CSS.escape(task) + '"] .box');
  if (!bar) return;
  box.classList.add("beside");
  const at = bar.getBoundingClientRect(), on = page.getBoundingClientRect(), wide = box.offsetWidth;
  const chart = document.querySelector(".day-chart").getBoundingClientRect();
  const left = Math.min(Math.max(at.left, chart.left), chart.right) - on.left;
  box.style.left = Math.max(8, Math.min(left, page.clientWidth - wide - 8)) + "px";
  box.style.top = at.bottom - on.top + 10 + "px";
}

// Where the picture is wider than the window, what is on now is in it.
function atNow() {
  const chart = document.querySelector(".day-chart"), now = chart?.querySelector(".now-line");
  if (now) chart.scrollLeft += now.getBoundingClientRect().left - chart.getBoundingClientRect().left - chart.clientWidth / 2;
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

// A bar in hand: the task that is being moved by keys, and the minute it would start at.
let inHand = null;

function tell(words) {
  const says = document.getElementById("day-says");
  if (!says) return;
  const p = document.createElement("p");
  p.className = "told";
  p.textContent = words;
  says.replaceChildren(p);
}

const clockOf = (min) => Math.floor(min / 60) + ":" + String(Math.round(min) % 60).padStart(2, "0");

// beside is the bar one goes to from another: the next in its lane, or the nearest in time in the lane above or below.
function beside(bar, key, root) {
  const all = [...chartOf(root).querySelectorAll(".day-bar[data-task]")].map((el) => ({ el, box: el.getBoundingClientRect() }));
  const here = bar.getBoundingClientRect(), across = key === "ArrowLeft" || key === "ArrowRight";
  const back = key === "ArrowLeft" || key === "ArrowUp";
  const middle = (box) => box.left + box.width / 2, level = (box) => box.top + box.height / 2;
  const there = all.filter(({ el, box }) => {
    if (el === bar) return false;
    const off = across ? box.left - here.left : level(box) - level(here);
    if (across && Math.abs(level(box) - level(here)) > here.height / 2) return false;
    return back ? off < -1 : off > 1;
  });
  const far = ({ box }) => across ? Math.abs(box.left - here.left) : 1e4 * Math.abs(level(box) - level(here)) + Math.abs(middle(box) - middle(here));
  return there.sort((a, b) => far(a) - far(b))[0]?.el;
}

// letGo puts a bar in hand back where it was.
function letGo(root, words) {
  if (!inHand) return;
  place(root, inHand.task, null);
  inHand = null;
  busy = false;
  tell(words);
}

function keyed(e, root) {
  const bar = e.target.closest?.(".day-bar[data-task]");
  if (!bar || e.ctrlKey || e.metaKey || e.altKey) return;
  const task = bar.dataset.task;
  const arrow = ["ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"].includes(e.key);
  if (inHand && inHand.task !== task) letGo(root, "Left where it was.");
  if (!inHand) {
    if (e.key === "m" && !busy) {
      e.preventDefault();
      inHand = { task, to: Number(bar.dataset.start) };
      busy = true;
      tell("In hand. Left and right move it by five minutes, with Shift by one; Enter sets it down, Escape leaves it where it was.");
    } else if (arrow) {
      e.preventDefault();
      const next = beside(bar, e.key, root);
      next?.focus();
      next?.scrollIntoView({ block: "nearest", inline: "nearest" });
    }
    return;
  }
  if (e.key === "ArrowLeft" || e.key === "ArrowRight") {
    e.preventDefault();
    inHand.to += (e.key === "ArrowLeft" ? -1 : 1) * (e.shiftKey ? 1 : STEP);
    place(root, task, inHand.to);
    tell("Would start at " + clockOf(inHand.to) + ".");
  } else if (e.key === "Escape") {
    e.preventDefault();
    letGo(root, "Left where it was.");
  } else if (e.key === "Enter" || e.key === "m") {
    e.preventDefault();
    const { to } = inHand;
    if (to === Number(bar.dataset.start)) return letGo(root, "Left where it was.");
    inHand = null;
    move(root, task, to);
  } else if (arrow) {
    e.preventDefault();
  }
}

// What loses the focus lets go of what it has in hand.
document.addEventListener("focusout", (e) => {
  if (inHand && e.target.closest?.(".day-bar") && !e.relatedTarget?.closest?.('[data-task="' + CSS.escape(inHand.task) + '"]')) {
    letGo(document.getElementById("day"), "Left where it was.");
  }
});

// A form of the page that led here was sent from a key: the focus goes on where it was.
const FROM = "day-focus";
document.addEventListener("submit", (e) => {
  const key = e.submitter;
  if (!key || !e.target.closest?.("#day")) return;
  const task = e.target.querySelector("input[name=task]")?.value ?? "";
  sessionStorage.setItem(FROM, JSON.stringify([location.pathname, key.name, key.value, task]));
});

export function focusAgain() {
  const kept = JSON.parse(sessionStorage.getItem(FROM) ?? "null");
  sessionStorage.removeItem(FROM);
  if (!kept || kept[0] !== location.pathname || document.activeElement !== document.body) return;
  const [, name, value, task] = kept;
  const same = name && [...document.querySelectorAll("#day button")].find((b) => b.name === name && b.value === value && b.offsetParent);
  const bar = task && document.querySelector('.day-bar[data-task="' + CSS.escape(task) + '"]');
  const head = document.querySelector("#day h1");
  if (!same && !bar) head?.setAttribute("tabindex", "-1");
  (same || bar || head)?.focus({ preventScroll: true });
}
