// Numbers as people type them, in the marks of their language. The server reads them by the same rules.
const { point = ".", group = "," } = document.documentElement.dataset;

// parse returns the number, NaN when it is none: 1,000 is a thousand, 0,9 is nine tenths; where a
// comma stands before decimals, 1.000 is a thousand.
export function parse(text) {
  let s = text.replace(/[\s\u00a0\u202f'’]/g, "").replace("\u2212", "-");
  if (!/^[0-9.,+\-eE]+$/.test(s)) return NaN;
  if (point === ",") {
    if (group === "." && /^[+-]?[1-9]\d{0,2}(\.\d{3})+(,\d+)?$/.test(s)) return Number(s.replaceAll(".", "").replace(",", "."));
    if (/^[+-]?\d+,\d{3}$/.test(s)) return Number(s.replace(",", "."));
  }
  const comma = s.lastIndexOf(",");
  if (comma >= 0) {
    const dot = s.lastIndexOf(".");
    const grouped = /^[+-]?[1-9]\d{0,2}(,\d{3})+$/.test(s);
    s = dot > comma || (dot < 0 && grouped) ? s.replaceAll(",", "") : s.slice(0, comma).replaceAll(".", "") + "." + s.slice(comma + 1);
  }
  return Number(s);
}

// shown is a number as it stands in a field.
export const shown = (n) => String(n).replace(".", point);

// stepped returns text moved n steps on the grid of by, within min and max; null when text
// is no number.
export function stepped(text, n, { min, max, by }) {
  const v = parse(text);
  if (text === "" || Number.isNaN(v)) return null;
  const step = Number(by);
  const k = v / step;
  const next = (n > 0 ? Math.floor(k + 1e-6) : Math.ceil(k - 1e-6)) + n;
  return shown(Number(Math.min(Math.max(next * step, Number(min)), Number(max)).toFixed(6)));
}
