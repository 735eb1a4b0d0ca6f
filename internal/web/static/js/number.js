// Numbers as people type them. The server reads them by the same rules.

// parse returns the number, NaN when it is none: 1,000 is a thousand, 0,9 is nine tenths.
export function parse(text) {
  let s = text.replace(/[\s\u00a0\u202f]/g, "").replace("\u2212", "-");
  if (!/^[0-9.,+\-eE]+$/.test(s)) return NaN;
  const comma = s.lastIndexOf(",");
  if (comma >= 0) {
    const dot = s.lastIndexOf(".");
    const grouped = /^[+-]?[1-9]\d{0,2}(,\d{3})+$/.test(s);
    s = dot > comma || (dot < 0 && grouped) ? s.replaceAll(",", "") : s.slice(0, comma).replaceAll(".", "") + "." + s.slice(comma + 1);
  }
  return Number(s);
}

// stepped returns text moved n steps on the grid of by, within min and max; null when text
// is no number.
export function stepped(text, n, { min, max, by }) {
  const v = parse(text);
  if (text === "" || Number.isNaN(v)) return null;
  const step = Number(by);
  const k = v / step;
  const next = (n > 0 ? Math.floor(k + 1e-6) : Math.ceil(k - 1e-6)) + n;
  return String(Number(Math.min(Math.max(next * step, Number(min)), Number(max)).toFixed(6)));
}
