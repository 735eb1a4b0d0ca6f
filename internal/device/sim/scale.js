// The keys of the stand-in scale, and what it shows.
const act = (what) => fetch("/do/" + what, { method: "POST" }).catch(() => {});
for (const b of document.querySelectorAll("[data-do]")) b.addEventListener("click", () => act(b.dataset.do));
const pour = document.querySelector("[data-hold]");
for (const on of ["pointerdown", "keydown"]) pour.addEventListener(on, (e) => !e.repeat && act("pour"));
for (const off of ["pointerup", "pointerleave", "pointercancel", "keyup", "blur"]) pour.addEventListener(off, () => act("stop"));
setInterval(async () => {
  const answer = await fetch("/g").catch(() => null);
  document.getElementById("g").textContent = answer?.ok ? (await answer.text()) + " g" : "silent";
}, 200);
