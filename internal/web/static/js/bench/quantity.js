// Figures as people type them, with or without their unit, by the table the server reads by (measure.Table).
import { parse, shown } from "../page/number.js";

const OZ_G = 28.349523125, FINE_OZ = 0.35, COARSE_OZ = 9.975, POUND_OZ = 16;

// inOunces is a mass of g as the server tells one (measure.Customary): number and unit, no finer than a kitchen scale
// shows it, in pounds and ounces from a pound on. A test holds the two equal.
export function inOunces(g) {
  const oz = g / OZ_G, size = Math.abs(oz), plain = (v) => shown(Number(v.toFixed(2)));
  if (oz >= POUND_OZ) {
    let lb = Math.floor(oz / POUND_OZ), rest = Math.round((oz % POUND_OZ) * 10) / 10;
    if (rest >= POUND_OZ) [lb, rest] = [lb + 1, 0];
    return rest === 0 ? [String(lb), "lb"] : [lb + " lb " + plain(rest), "oz"];
  }
  const by = size < FINE_OZ ? 0.01 : size >= COARSE_OZ ? 0.1 : 0.05;
  return [plain(Math.round(oz / by) * by), "oz"];
}

// reader returns read(text, unit, alone): the figure in the unit that is kept, alone times what a number without a unit
// says. It is { v } for a figure, { v: NaN } for none, { v: NaN, ask } for a part of nothing named.
export function reader(table) {
  const says = Object.fromEntries(table.spoken.reduce((all, x, i) => (i % 2 ? all : [...all, [x, table.spoken[i + 1]]]), []));
  const escaped = (s) => s.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const spoken = new RegExp(Object.keys(says).map(escaped).join("|"), "g");
  const none = { v: NaN };

  function unitAt(text, unit) {
    const known = table.units[unit] ?? (unit ? [{ name: unit.toLowerCase(), by: 1 }] : []);
    for (const u of known) {
      if (!text.startsWith(u.name)) continue;
      for (const end of ["", ...table.endings]) {
        const after = text.slice(u.name.length);
        if (after.startsWith(end) && /^($|[ 0-9])/.test(after.slice(end.length))) return { ...u, after: after.slice(end.length) };
      }
    }
    return null;
  }

  function fraction(s) {
    if (!s.includes("/")) return parse(s);
    return s.trim().split(/\s+/).reduce((sum, part) => {
      const [a, b] = part.split("/");
      return sum + (b === undefined ? parse(a) : parse(b) === 0 ? NaN : parse(a) / parse(b));
    }, 0);
  }

  function clock(s, unit) {
    const m = /^([^:]*):(\d*)\s*(.*)$/.exec(s);
    const a = parse(m[1]), b = parse(m[2]);
    const u = m[3] === "" ? { ...table.clock[unit], after: "" } : unitAt(m[3], unit);
    return a >= 0 && b < 60 && u?.then && u.after === "" ? { v: a * u.by + b * u.then } : none;
  }

  return function read(text, unit, alone = 1) {
    const plain = parse(text);
    if (text.trim() !== "" && Number.isFinite(plain)) return { v: plain * alone };
    let s = text.trim().toLowerCase();
    for (const one of ["a ", "an "]) if (s.startsWith(one) && !/^(half|quarter)/.test(s.slice(one.length))) s = "1 " + s.slice(one.length);
    s = s.replace(/^(\d+)\s*([a-zà-ÿ]*)\s+and an? (half|quarter)$/, "$1 $3 $2").replace(spoken, (x) => says[x]).trim();
    if (s.includes(":")) return clock(s, unit);
    if (s.includes("/") && !s.includes(" ") && table.unclear[unit] && Number.isFinite(fraction(s))) return { v: NaN, ask: table.unclear[unit] };
    let sum = 0, then = 0;
    for (let first = true; s !== "" || first; first = false) {
      const [, number, rest] = /^([0-9.,/ \u00a0\-−]*)(.*)$/.exec(s);
      const n = number.trim() === "" ? NaN : fraction(number.trim()), u = unitAt(rest, unit);
      if (Number.isNaN(n) || (n < 0 && !first)) return none;
      if (rest === "" && first) sum = n * alone;
      else if (rest === "" && then > 0) sum += n * then;
      else if (!u) return none;
      else sum += n * u.by + (u.add ?? 0);
      then = u?.then ?? 0;
      s = (u?.after ?? "").trim();
    }
    return { v: sum };
  };
}
