// What every page has: the keys, and the batch form where there is one.
import { startKeys } from "./page/keys.js";
import { startBatch } from "./batch/batch.js";
import { startFinder } from "./page/finder.js";
import { stepped } from "./page/number.js";
import { keepForms } from "./page/kept.js";
import { markScrollers } from "./page/scrollers.js";
import { pictures } from "./log/pictures.js";
import { follow, startDay } from "./day/day.js";

const finder = document.getElementById("finder");
if (finder) startFinder(finder);
const form = document.getElementById("batch");
if (form) startBatch(form);
const day = document.getElementById("day");
if (day) startDay(day);
const phone = document.querySelector("main.phone");
if (phone) follow(phone, () => phone.dataset, () => location.reload());
startKeys();
keepForms();
pictures();
let marking = 0;
function mark() {
  cancelAnimationFrame(marking);
  marking = requestAnimationFrame(markScrollers);
}
for (const when of ["load", "resize"]) addEventListener(when, mark);
document.addEventListener("drawn", mark); // anew, by the batch
for (const button of document.querySelectorAll("[data-print]")) {
  button.hidden = false;
  button.addEventListener("click", () => print());
}

// Menus close by Escape, and by a press beside them.
document.addEventListener("keydown", (e) => {
  if (e.key !== "Escape") return;
  for (const menu of document.querySelectorAll(".menu[open]")) {
    menu.open = false;
    menu.querySelector("summary").focus();
  }
});
document.addEventListener("click", (e) => {
  for (const menu of document.querySelectorAll(".menu[open]")) if (!menu.contains(e.target)) menu.open = false;
});

// The steppers of a form that is not worked out as it is typed.
for (const asks of document.querySelectorAll("form.asks")) {
  asks.addEventListener("click", (e) => {
    const button = e.target.closest("button[data-step]");
    const input = button?.parentElement.querySelector("input");
    const next = input && stepped(input.value || input.placeholder, Number(button.dataset.step), input.dataset);
    if (!input || next === null) return;
    input.value = next;
    input.dispatchEvent(new Event("input", { bubbles: true }));
    e.preventDefault();
  });
  // An amount that is typed is the one that counts.
  asks.addEventListener("input", (e) => {
    const by = { "amount.portions": "portions", "amount.dough_g": "dough" }[e.target.name];
    const radio = by && asks.querySelector('input[type=radio][name="amount.by"][value="' + by + '"]');
    if (radio) radio.checked = true;
  });
}

// A password can be looked at while it is typed.
for (const field of document.querySelectorAll(".ctl input[type=password]")) {
  const show = document.createElement("label"), tick = document.createElement("input");
  show.className = "tick show-it";
  tick.type = "checkbox";
  tick.addEventListener("change", () => (field.type = tick.checked ? "text" : "password"));
  show.append(tick, " Show it");
  field.after(show);
}

// A number is selected when it is gone to: what is typed takes its place.
let justFocused = null;
document.addEventListener("focusin", (e) => (justFocused = e.target.matches?.("input[inputmode=decimal]") ? e.target : null));
document.addEventListener("click", (e) => {
  if (e.target === justFocused && e.target.selectionStart === e.target.selectionEnd) e.target.select();
  justFocused = null;
});

// The form of a shape shows the lines of its family; what is hidden keeps what stands in it,
// and a line in error always shows.
const family = document.querySelector("select[name=family]");
if (family) {
  const sort = () => {
    for (const line of document.querySelectorAll("[data-of]")) line.hidden = !line.dataset.of.split(" ").includes(family.value) && !line.querySelector("[aria-invalid]");
  };
  family.addEventListener("change", sort);
  sort();
}
