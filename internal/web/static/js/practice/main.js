// A dough to practise on: its keys by keyboard, its page in place, and its other windows.
import { patch } from "../page/patch.js";
import { stepped } from "../page/number.js";
import { answered, fault, NoAnswer, FAULT_WORDS } from "../page/answer.js";

const round = () => document.getElementById("round");
const PART = { headers: { "X-Hollen-Part": "figures" } };
const others = "BroadcastChannel" in window ? new BroadcastChannel("practice") : null;
let busy = false;

// say tells what is wrong where the dough stands, without taking its keys away.
function say(words) {
  let p = document.getElementById("practice-says");
  if (!p) {
    p = document.createElement("p");
    p.id = "practice-says";
    p.className = "told is-warn";
    p.setAttribute("role", "alert");
    round().prepend(p);
  }
  p.textContent = words;
}

// show puts what the server answered in place; a page that is no dough any more is gone to.
async function show(response) {
  const text = await answered(response.text());
  const page = new DOMParser().parseFromString(text, "text/html");
  const fresh = page.getElementById("round");
  if (!fresh) {
    location.href = response.url;
    return;
  }
  const was = document.activeElement?.closest(".key-form")?.querySelector("[name=do]")?.value;
  patch(round().parentElement, fresh.parentElement);
  ready();
  if (was && !round().contains(document.activeElement)) round().querySelector(`.key-form:has([name=do][value="${was}"]) .key`)?.focus();
}

async function ask(url, options) {
  if (busy) return;
  busy = true;
  try {
    await show(await answered(fetch(url, { ...PART, ...options })));
  } catch (err) {
    if (err instanceof NoAnswer) say("Hollen does not answer. Nothing was done; press again.");
    else {
      fault(err);
      say(FAULT_WORDS);
    }
  } finally {
    busy = false;
  }
}

// ready shows what works with scripts alone.
function ready() {
  for (const b of document.querySelectorAll(".key-amount button")) b.hidden = false;
}

function follow() {
  if (round() && !busy) ask(location.pathname, {});
}

function step(form, by) {
  const input = form?.querySelector(".key-amount input");
  if (!input) return false;
  const { low, high, step: grid } = input.dataset;
  const next = stepped(input.value, by, { min: low, max: high, by: grid });
  if (next !== null) input.value = next;
  return true;
}

document.addEventListener("submit", async (e) => {
  const form = e.target;
  if (!round() || !round().contains(form) || !form.action.endsWith("/act")) return;
  e.preventDefault();
  const data = new URLSearchParams(new FormData(form, e.submitter));
  await ask(form.action, { method: "POST", body: data });
  others?.postMessage(location.pathname);
});

document.addEventListener("click", (e) => {
  const less = e.target.closest(".key-amount .less");
  const more = e.target.closest(".key-amount .more");
  if (less || more) step((less ?? more).closest(".key-form"), less ? -1 : 1);
});

document.addEventListener("keydown", (e) => {
  if (e.ctrlKey || e.metaKey || e.altKey || localStorage.getItem("keys-off") || document.querySelector("dialog[open]")) return;
  const at = document.activeElement;
  if (at?.matches("input:not([type=radio], [type=checkbox]), select, textarea, summary")) return;
  if (e.key >= "1" && e.key <= "9") {
    const key = document.querySelector(`[data-key-n="${e.key}"]`) ?? document.querySelectorAll(".guess .key")[Number(e.key) - 1];
    if (!key) return;
    key.focus();
    key.click();
  } else if (e.key === " " && !at?.matches("button, a")) {
    const yolk = document.querySelector("[data-space]");
    if (!yolk) return;
    yolk.click();
  } else if ((e.key === "ArrowLeft" || e.key === "ArrowRight") && at?.closest(".key-form")) {
    if (!step(at.closest(".key-form"), e.key === "ArrowLeft" ? -1 : 1)) return;
  } else if (e.key === "l") {
    const looks = [...document.querySelectorAll(".looks button")];
    if (!looks.length) return;
    looks[(looks.indexOf(at) + 1) % looks.length].focus();
  } else return;
  e.preventDefault();
  e.stopImmediatePropagation();
});

if (round()) {
  ready();
  others?.addEventListener("message", (e) => e.data === location.pathname && follow());
  addEventListener("pageshow", (e) => e.persisted && follow());
  document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && follow());
}
