// Single keys: / goes to Find, 1 to 8 open a station, d the doctor, p the batch sheet, s saves, n and b go to pages, b from a batch to the bench, ? lists them. They rest
// while something is being typed.

const typing = (el) => el && (el.matches("input:not([type=checkbox]):not([type=radio]), select, textarea") || el.isContentEditable);
const OFF = "keys-off"; // kept in the browser

export function startKeys() {
  const dialog = document.getElementById("keys");
  const open = document.getElementById("keys-open");
  const on = document.getElementById("keys-on");
  on.checked = !localStorage.getItem(OFF);
  on.addEventListener("change", () => (on.checked ? localStorage.removeItem(OFF) : localStorage.setItem(OFF, "yes")));
  // What explains the page is asked for when it is wanted; at a batch, of the station that is open.
  async function help() {
    dialog.showModal();
    const at = document.querySelector("#batch [name=was_at]")?.value;
    try {
      const got = await fetch(open.href + "&part=yes" + (at ? "&at=" + at : ""));
      if (!got.ok) return;
      const page = new DOMParser().parseFromString(await got.text(), "text/html");
      document.getElementById("explained").replaceChildren(...page.body.childNodes);
    } catch {
      // Without the server the keys alone are told.
    }
  }
  open.addEventListener("click", (e) => {
    if (e.ctrlKey || e.metaKey || e.shiftKey) return;
    e.preventDefault();
    help();
  });
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || typing(document.activeElement) || dialog.open) return;
    if (!on.checked && e.key !== "?") return;
    if (e.key === "?") {
      help();
    } else if (e.key >= "1" && e.key <= "8") {
      document.querySelectorAll(".station")[Number(e.key) - 1]?.click();
    } else if (e.key === "/") {
      const find = document.querySelector("[role=search] input[type=search], .finder input[type=search]");
      if (find) find.focus();
      else location.href = "/batches#find";
    } else if (e.key === "b") {
      const bench = document.querySelector("[data-key=b]");
      if (bench) bench.click();
      else location.href = "/batches";
    } else if (e.key === "n") {
      location.href = "/batches/new";
    } else if (e.key === "c") {
      location.href = "/compare";
    } else if (e.key === "r") {
      location.href = "/recipe";
    } else if (e.key === "s" || e.key === "d" || e.key === "p") {
      document.querySelector("[data-key=" + e.key + "]")?.click();
    } else {
      return;
    }
    e.preventDefault();
  });
}
