// A password can be looked at while it is typed.
for (const field of document.querySelectorAll(".ctl input[type=password]")) {
  const show = document.createElement("label"), tick = document.createElement("input");
  show.className = "tick show-it";
  tick.type = "checkbox";
  tick.addEventListener("change", () => (field.type = tick.checked ? "text" : "password"));
  show.append(tick, " Show it");
  field.after(show);
}
