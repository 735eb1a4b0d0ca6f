// The question of the first page: the answer follows as one types, and nothing is saved.
const BLANKS = ["amount.portions", "cut.shape", "flours.0.flour", "eggs.class", "roll.machine"];

export function startToday(form) {
  tick();
  const answer = document.getElementById("answer");
  form.querySelector("#ask-go").hidden = true;
  // work asks at once; while a question is out the newest change waits for its answer.
  let out = false, changed = false;
  async function work() {
    changed = out;
    if (out) return;
    out = true;
    const typed = new FormData(form), query = new URLSearchParams();
    for (const name of BLANKS) query.set(name, typed.get(name) ?? "");
    try {
      const got = await fetch("/?part=answer&" + query);
      if (!got.ok) return;
      const then = document.createElement("template");
      then.innerHTML = await got.text(); // nothing in it runs
      if (!changed) answer.replaceChildren(then.content);
    } catch {
      // Without the server the last answer stands; the keys say so when they are pressed.
    } finally {
      out = false;
      if (changed) work();
    }
  }
  form.addEventListener("input", work);
  form.addEventListener("click", (e) => {
    const key = e.target.closest("[data-step]");
    if (!key) return;
    e.preventDefault();
    const field = form.elements["amount.portions"], was = Number(field.value) || 0;
    field.value = String(Math.min(400, Math.max(1, Math.round(was) + Number(key.dataset.step))));
    work();
  });
}

// What goes on at the bench: its clocks run on.
function tick() {
  const began = performance.now();
  const clocks = [...document.querySelectorAll(".clock[data-left]")].filter((c) => !("stood" in c.dataset));
  if (!clocks.length) return;
  setInterval(() => {
    for (const c of clocks) {
      const left = Number(c.dataset.left) - (performance.now() - began) / 1000;
      const s = left < 0 ? Math.floor(-left) : Math.ceil(left);
      c.textContent = `${left < 0 ? "+" : ""}${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
    }
  }, 1000);
}
