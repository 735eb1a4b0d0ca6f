// What every page has: the keys, and the batch form where there is one.
import { startKeys } from "./keys.js";
import { startBatch } from "./batch.js";

const form = document.getElementById("batch");
if (form) startBatch(form);
startKeys();
for (const button of document.querySelectorAll("[data-print]")) {
  button.hidden = false;
  button.addEventListener("click", () => print());
}
