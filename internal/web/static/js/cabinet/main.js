// The form of a shape shows the lines of its family; what is hidden keeps what stands in it,
// and a line in error always shows.
const family = document.querySelector("select[name=family]");
if (family) {
  const sort = () => {
    for (const line of document.querySelectorAll("[data-of]")) line.hidden = !line.dataset.of.split(" ").includes(family.value) && !line.querySelector("[aria-invalid]");
  };
  family.addEventListener("change", sort);
  sort();
}

// A sample in the oven and doughs at rest show their minutes; when they are over, the page says so in its title, too.
const since = document.querySelector("[data-since]");
if (since) {
  const title = document.title;
  const tell = () => {
    const min = Math.max(0, Math.floor((Date.now() - Number(since.dataset.since)) / 60000));
    since.textContent = min + " min";
    if (min >= Number(since.dataset.after)) document.title = "Time is up: " + title;
  };
  setInterval(tell, 15000);
  tell();
}
