// The page of a day, and the phone of who works on it.
import { follow, startDay } from "./day.js";

const day = document.getElementById("day");
if (day) startDay(day);
const phone = document.querySelector("main.phone");
if (phone) follow(phone, () => phone.dataset, () => location.reload());
