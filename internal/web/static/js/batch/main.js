// The page of a batch, and the form of a new one.
import { startBatch } from "./batch.js";

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
