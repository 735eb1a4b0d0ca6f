// Pictures of a making: made small here, so that what goes over the network and into the database is at most 500 kB; drawing one
// anew leaves behind where it was taken.
const SIDE = 1600, MOST = 500 * 1024;

async function small(file) {
  const img = await createImageBitmap(file, { imageOrientation: "from-image" });
  for (let side = SIDE; side >= 400; side = Math.round(side * 0.75)) {
    const k = Math.min(1, side / Math.max(img.width, img.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(img.width * k));
    canvas.height = Math.max(1, Math.round(img.height * k));
    const g = canvas.getContext("2d");
    g.fillStyle = "#fff";
    g.fillRect(0, 0, canvas.width, canvas.height);
    g.drawImage(img, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.8));
    if (blob && blob.size <= MOST) return blob;
  }
  throw new Error("too large");
}

export function pictures() {
  const field = document.getElementById("picture");
  if (!field) return;
  field.closest("[hidden]").hidden = false;
  const say = document.getElementById("picture-said");
  field.addEventListener("change", async () => {
    for (const file of field.files) {
      say.textContent = "Making it small …";
      let blob;
      try {
        blob = await small(file);
      } catch {
        say.textContent = "“" + file.name + "” is no picture this browser can read.";
        field.value = "";
        return;
      }
      try {
        const answer = await fetch(field.dataset.to, { method: "POST", headers: { "Content-Type": "image/jpeg" }, body: blob });
        if (!answer.ok) {
          say.textContent = await answer.text();
          field.value = "";
          return;
        }
      } catch {
        say.textContent = "The server does not answer; the picture is not kept. Choose it again when it does.";
        field.value = "";
        return;
      }
    }
    location.reload();
  });
}
