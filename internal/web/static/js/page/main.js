// What every page has: keys, menus, fields, and lists that are searched.
import { startKeys } from "./keys.js";
import { startFinder } from "./finder.js";
import { stepped } from "./number.js";
import { keepForms } from "./kept.js";
import { markScrollers } from "./scrollers.js";

const finder = document.getElementById("finder");
if (finder) startFinder(finder);
startKeys();
keepForms();
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

// On a narrow screen a list shows first what it holds: its filters are folded, unless one is set.
const narrow = matchMedia("(max-width: 40em)");
function fold() {
  for (const f of document.querySelectorAll("details.filters:not([data-set])")) f.open = !narrow.matches;
}
fold();
narrow.addEventListener("change", fold);

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
}

// A number is selected when it is gone to: what is typed takes its place.
let justFocused = null;
document.addEventListener("focusin", (e) => (justFocused = e.target.matches?.("input[inputmode=decimal]") ? e.target : null));
document.addEventListener("click", (e) => {
  if (e.target === justFocused && e.target.selectionStart === e.target.selectionEnd) e.target.select();
  justFocused = null;
});
