// What is wider than its place scrolls within itself: then it says so, and can be reached by keyboard.
const name = (box) =>
  box.querySelector("caption, title")?.textContent.trim() ||
  box.closest("section, div, main")?.querySelector("h2, h1")?.textContent.trim() || "Scrolls sideways";

export function markScrollers() {
  for (const box of document.querySelectorAll(".scroll, .chart")) {
    const wide = box.scrollWidth > box.clientWidth + 1;
    box.classList.toggle("more", wide);
    if (wide) {
      box.tabIndex = 0;
      box.setAttribute("role", "region");
      box.setAttribute("aria-label", name(box) + ", scrolls sideways");
    } else if (box.hasAttribute("tabindex")) {
      for (const attribute of ["tabindex", "role", "aria-label"]) box.removeAttribute(attribute);
    }
  }
}
