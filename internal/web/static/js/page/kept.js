// What is typed into a form that is not worked out as one types outlives a reload, Back, and a server that is gone.
// It is kept in the tab until the form has been taken. A form is sent only while the server answers.
const KEPT = "kept-", SENT = "sent-";

// The mark that has what is sent twice be one comes back with what was typed.
const NOT_TYPED = ["hidden", "file", "submit", "button", "password"];
const typed = (form) => [...form.elements].filter((f) => f.name && (f.name === "once" || !NOT_TYPED.includes(f.type)));

export function keepForms() {
  // A form that was sent, and led to a page of its own without an error, was taken.
  for (const key of Object.keys(sessionStorage).filter((k) => k.startsWith(SENT))) {
    const at = key.slice(SENT.length);
    const led = at.split("#")[0] !== location.pathname || performance.getEntriesByType("navigation")[0]?.type === "navigate";
    if (led && !document.querySelector("[aria-invalid], .failed")) sessionStorage.removeItem(KEPT + at);
    sessionStorage.removeItem(key);
  }
  keepAll();
  document.addEventListener("drawn", keepAll); // a part of the page anew
}

function keepAll() {
  for (const form of document.querySelectorAll("form.asks[method=post], form.room-form, form[data-keep]")) {
    if (form.dataset.kept) continue;
    form.dataset.kept = "yes";
    const name = form.dataset.keep ?? form.elements.id?.value;
    const at = location.pathname + (name ? "#" + name : "");
    const kept = JSON.parse(sessionStorage.getItem(KEPT + at) ?? "null");
    if (kept && !form.querySelector("[aria-invalid]")) {
      typed(form).forEach((f, i) => {
        const was = kept[i];
        if (!was || was[0] !== f.name) return;
        if (f.type === "checkbox" || f.type === "radio") f.checked = was[1];
        else if (f.value !== was[1]) {
          f.value = was[1];
          const fold = f.closest("details");
          if (fold) fold.open = true;
        }
      });
    }
    form.addEventListener("input", () => {
      const now = typed(form).map((f) => [f.name, f.type === "checkbox" || f.type === "radio" ? f.checked : f.value]);
      sessionStorage.setItem(KEPT + at, JSON.stringify(now));
    });
    form.addEventListener("submit", (e) => {
      if (form.dataset.sent) { // by send, below
        delete form.dataset.sent;
        sessionStorage.setItem(SENT + at, "yes");
        return;
      }
      e.preventDefault();
      send(form, e.submitter);
    });
  }
}

// send waits until the server answers before the form leaves the page; until then it says so, and tries again.
const AGAIN_MS = 3000;
async function send(form, submitter) {
  if (form.dataset.waiting) return;
  form.dataset.waiting = "yes";
  for (;;) {
    const answer = await fetch("/readyz").catch(() => null);
    if (answer?.ok) break;
    say(form, "Not sent: " + (answer ? "the database does not answer." : "Hollen does not answer.") + " It is tried again; what you typed is kept.");
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
  say(form, "");
  delete form.dataset.waiting;
  form.dataset.sent = "yes";
  form.requestSubmit(submitter);
}

function say(form, text) {
  let line = form.querySelector(".unsent");
  if (!line && text) {
    line = document.createElement("p");
    line.className = "err unsent";
    line.setAttribute("role", "alert");
    (form.querySelector(".asks-go") ?? form).append(line);
  }
  if (line) line.textContent = text;
}
