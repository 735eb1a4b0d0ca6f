// The page of a batch, and the form of a new one.
import { startBatch } from "./batch.js";
import { startToday } from "./today.js";

const form = document.getElementById("batch");
if (form) startBatch(form);

const ask = document.getElementById("ask");
if (ask) startToday(ask);
