// The page of a batch, and the form of a new one.
import { startBatch } from "./batch.js";
import { startToday } from "./today.js";

const form = document.getElementById("batch");
if (form) startBatch(form);

for (const asks of document.querySelectorAll("form.asks")) {
  // An amount that is typed is the one that counts.
  asks.addEventListener("input", (e) => {
    const by = { "amount.portions": "portions", "amount.dough_g": "dough" }[e.target.name];
    const radio = by && asks.querySelector('input[type=radio][name="amount.by"][value="' + by + '"]');
    if (radio) radio.checked = true;
  });
}

const ask = document.getElementById("ask");
if (ask) startToday(ask);
