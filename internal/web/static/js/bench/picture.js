// The picture under the step: minutes done of those there are, grams of those wanted, the sheet against the bench. All to
// scale, drawn at the size they are shown.
import { shown } from "../page/number.js";

// length is the sheet after this pass against the bench, and where it is halved for the next.
function length(svg, step, next, { bench_mm: benchMM, ounces }) {
  const wide = svg.clientWidth || 1000, long = step.length_mm, whole = Math.max(benchMM, long);
  const halve = next?.kind === "pass" && next.piece === step.piece && next.halve;
  const mark = ["length", wide, long, whole, halve].join(":");
  svg.classList.remove("off");
  if (svg.dataset.mark === mark) return;
  svg.dataset.mark = mark;
  svg.setAttribute("viewBox", "0 0 " + wide + " 104");
  const x = (mm) => ((mm / whole) * wide).toFixed(1), metres = (mm) => (ounces ? Math.round(mm / 25.4) + " in" : shown(Math.round(mm / 10) / 100) + " m");
  const cut = halve ? `<path class="ink" style="stroke-dasharray:8 6;stroke-width:3;fill:none" d="M${x(long / 2)} 26V72"/><text class="m b" x="${x(long / 2)}" y="98" style="font-size:20px">halve here</text>` : "";
  const end = `<text class="e" x="${wide}" y="98" style="font-size:20px">the bench, ${metres(benchMM)}</text>`;
  svg.innerHTML = `<path class="ink" d="M0 72H${wide}M${wide - 1} 62V82M1 62V82" style="fill:none"/><rect class="dough" x="0" y="30" width="${x(long)}" height="34"/><text class="b" x="0" y="22" style="font-size:20px">${metres(long)} of sheet</text>${cut}${end}`;
  svg.setAttribute("aria-label", metres(long) + " of sheet on a bench of " + metres(benchMM) + (halve ? ", halve it after" : ""));
}

// bar is the step to scale: minutes done of those there are, or grams of those wanted.
// counted is what is made of what is to be made, a square each; a line where they are too many.
function counted(svg, made, count) {
  const wide = svg.clientWidth || 1000, mark = ["count", wide, made, count].join(":");
  svg.classList.remove("off");
  if (svg.dataset.mark === mark) return;
  svg.dataset.mark = mark;
  svg.setAttribute("viewBox", "0 0 " + wide + " 104");
  const each = Math.min(64, wide / count);
  svg.innerHTML = each >= 12
    ? Array.from({ length: count }, (_, i) => `<rect class="${i < made ? "dough" : "bare"}" style="${i < made ? "" : "fill:none;stroke:var(--firm);stroke-dasharray:4 4"}" x="${(i * each + 2).toFixed(1)}" y="30" width="${(each - 4).toFixed(1)}" height="42" rx="${Math.min(20, each / 3).toFixed(0)}"/>`).join("")
    : `<rect class="ground" x="0" y="30" width="${wide}" height="42"/><rect class="dough" x="0" y="30" width="${((Math.min(made, count) / count) * wide).toFixed(1)}" height="42"/>`;
  svg.setAttribute("aria-label", made + " of " + count + " made");
}

export function picture(svg, { step, clock, done, left, g: onScale, near, next, offers, grams }) {
  const g = step?.want_g ? Math.max(0, onScale ?? done.g ?? 0) : 0;
  if (step?.kind === "pass" && step.length_mm && !clock) return length(svg, step, next, offers);
  if (step?.kind === "cut" && step.count && !clock) return counted(svg, done.made ?? 0, step.count);
  svg.classList.toggle("off", !clock && !step?.want_g);
  if (svg.classList.contains("off")) return;
  const whole = clock ? Math.max(clock.length_s, 1) : 1.13 * step.want_g;
  const full = clock ? Math.min(1, Math.max(0, (whole - left) / whole)) : Math.min(1, g / whole);
  const wide = svg.clientWidth || 1000; // drawn at the size it is shown
  const mark = Math.round(full * wide) + ":" + whole + ":" + wide + ":" + (step?.want_g ?? 0);
  if (svg.dataset.mark === mark) return;
  svg.dataset.mark = mark;
  svg.setAttribute("viewBox", "0 0 " + wide + " 104");
  const x = Math.round(full * wide);
  const unit = clock ? 60 : 1, span = whole / unit;
  const by = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((n) => span / n <= wide / 90) ?? 5000;
  let ticks = "", words = "";
  for (let v = 0; v <= span + 1e-9; v += by) {
    const at = (v / span) * wide;
    ticks += "M" + at.toFixed(1) + " 64v12";
    const edge = v === 0 ? "" : at > wide - 24 ? "e" : "m";
    if (clock || at < wide - 200) words += `<text class="${edge}" x="${at.toFixed(1)}" y="98" style="font-size:20px">${shown(v)}</text>`;
  }
  let box = "";
  if (!clock) {
    const off = near(step);
    const a = ((step.want_g - off) / whole) * wide, b = ((step.want_g + off) / whole) * wide;
    box = `<rect x="${a.toFixed(1)}" y="14" width="${Math.max(6, b - a).toFixed(1)}" height="58" class="ink" style="stroke-width:3"/><text class="e b" x="${wide}" y="98" style="font-size:20px">${grams(step.want_g)} ± ${grams(off)}</text>`;
  } else box = `<path class="yolk" d="M${Math.min(Math.max(x, 12), wide - 12)} 66l-12 -16v-46h24v46z" style="stroke-width:2"/>`;
  svg.innerHTML = `<rect class="ground" x="0" y="22" width="${wide}" height="42"/><rect class="dough" x="0" y="22" width="${x}" height="42"/><path class="ink" d="M0 64H${wide}${ticks}"/>${words}${box}`;
  svg.setAttribute("aria-label", clock ? Math.round(full * 100) + " % of the time" : grams(g) + " of " + grams(step.want_g));
}
