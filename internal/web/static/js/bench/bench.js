// The bench: one step on the screen, its keys, its clock. What is tapped shows at once; the server's word, when it
// comes, stands.
import { openLine } from "./line.js";
import { ring, say as speak, stayAwake, unlock } from "./alarm.js";
import { key, panelsOf } from "./panels.js";
import { picture } from "./picture.js";
import { closed, folded } from "./fold.js";
import { inOunces } from "./quantity.js";
import { shown } from "../page/number.js";

const bench = document.getElementById("bench");
const $ = (id) => document.getElementById(id);
let state = JSON.parse($("state").textContent);
let told = state.steps; // the steps as the server told them
let steps = told; // and with the taps it has not told of yet
const offers = JSON.parse($("offers").textContent);
const maker = () => localStorage.getItem("bench-maker") ?? "";
const ONCE_MS = 400; // the same key again within this counts once
const AWAKE_MIN = 60; // clocks shorter than this keep the screen on
const TICK_MS = 200;

const number = (v) => shown(v >= 10 ? Math.round(v) : Math.round(v * 10) / 10);
// mass is grams as they are shown here: number and unit.
const mass = (g) => (offers.ounces ? inOunces(g) : [number(g), "g"]);
const grams = (g) => mass(g).join(" ");
const pad = (n) => String(n).padStart(2, "0");
// clocked is seconds as a clock shows them.
export function clocked(s) {
  s = Math.abs(Math.round(s));
  const h = Math.floor(s / 3600), m = Math.floor((s % 3600) / 60);
  return h ? h + ":" + pad(m) + ":" + pad(s % 60) : m + ":" + pad(s % 60);
}

let local = []; // taps the server has not told of yet
let scale = state.scale ?? null; // what the scale says
let base = 0; // of which this much lay there before this line, g
let byItself = !localStorage.getItem("bench-take"); // a steady reading that is right is taken by itself
const LIFTED_G = 5, EMPTY_G = 2;
const line = openLine(bench.dataset.id, {
  state(s, waiting) {
    if (s.seq < state.seq) return;
    if (s.steps) told = s.steps;
    state = s;
    local = waiting;
    for (const r of s.refused ?? []) note("Not kept: " + r.why);
    draw();
  },
  scale(s) {
    scale = s;
    weighing();
    tick();
  },
  unsent(n, there, out) {
    const el = $("unsent");
    el.hidden = there && n === 0;
    Object.assign(el.dataset, { is: there ? "" : out ? "signed-out" : "away", taps: n });
    el.textContent = there ? "" : out ? "Signed out: sign in in another tab" + (n ? ", " + n + (n === 1 ? " tap" : " taps") + " kept" : "") : "No server: going on without" + (n ? ", " + n + (n === 1 ? " tap" : " taps") + " kept" : "");
    if (there && n) el.hidden = true;
  },
});

local = line.waiting(); // of a page before this one, which the server may not have told of yet

// as is how the making stands with the taps the server has not told of yet.
function as() {
  const now = folded(state, told, local);
  steps = now.steps;
  return now;
}

const left = (c) => c.length_s - ((c.paused ? c.paused : line.now()) - c.began) / 1000 + (c.paused_s ?? 0);

let counter = 0;
function tap(what, more = {}) {
  const id = Date.now().toString(36) + "-" + Math.random().toString(36).slice(2, 8) + "-" + counter++;
  const event = { id, what, at: new Date(line.now()).toISOString(), by: maker() || undefined, ...more };
  local = [...line.waiting(), event];
  line.send(event);
  if (what === "done") guided();
  draw();
  return event;
}

// guided puts away what is said at the first making, once a step is done.
function guided() {
  const guide = $("guide");
  if (!guide) return;
  guide.remove();
  const done = document.cookie.match(/(?:^|; )guided=([\w.]*)/)?.[1] ?? "";
  document.cookie = "guided=" + [...done.split(".").filter(Boolean), "making"].join(".") + "; path=/; max-age=315360000; samesite=lax";
}

const reading = { on: false };
const panels = panelsOf({
  now: as, steps: () => steps, state: () => state, tap, redraw: () => draw(), food: foodNow, offers, signs: JSON.parse($("all-signs").textContent), id: bench.dataset.id, look, reading,
  scale: {
    there: () => Boolean(scale),
    g: () => onScale() ?? 0,
    byItself: () => byItself,
    turn() {
      byItself = !byItself;
      if (byItself) localStorage.removeItem("bench-take");
      else localStorage.setItem("bench-take", "no");
    },
  },
});

// A piece after the first is one card, its passes in a row; pass by pass for whoever asks, kept for each maker.
const byPass = () => localStorage.getItem("bench-by-pass " + maker()) === "yes";
const carded = (step) => step?.kind === "pass" && Boolean(step.stop) && step.piece > 1 && step.passes > 1 && !byPass();
function turnCard() {
  if (byPass()) localStorage.removeItem("bench-by-pass " + maker());
  else localStorage.setItem("bench-by-pass " + maker(), "yes");
  draw();
}

let pressed = { what: "", at: 0 };
// once says whether a key counts: not when it is the same again at once.
function once(what) {
  const t = performance.now();
  if (pressed.what === what && t - pressed.at < ONCE_MS) return false;
  pressed = { what, at: t };
  return true;
}

// The pedal, the space bar and the yolk key: on, unless a poke is being timed or another step is looked at.
function on() {
  if (looking !== null) return void (once("on") && look(null));
  if (panels.poked()) return void (once("on") && panels.poke());
  const now = as();
  if (carded(steps[now.at])) return pieceDone(now, steps[now.at]);
  if (now.at < steps.length && once("on")) {
    const step = steps[now.at];
    tap("done", { step: step.key });
    if (reading.on && steps[now.at + 1]) speak(steps[now.at + 1].head + ". " + (steps[now.at + 1].much ?? ""));
  }
}
function back() {
  if (looking !== null) return void (once("back") && look(looking - 1));
  const now = as();
  if (!now.last || !once("back")) return;
  const all = burst.at(-1) === now.last ? burst.toReversed() : [now.last]; // a piece goes back as it was done
  burst = [];
  for (const of of all) tap("taken_back", { of });
}
let burst = []; // the taps of the piece done last

// onScale is what lies on the scale of this line, g; null where no scale speaks.
const onScale = () => (scale && !scale.silent ? scale.g - base : null);
const near = (step) => Math.max(offers.rules.within, offers.rules.share * step.want_g);

// weighing takes a reading that is steady and right by itself: not of what is counted or less than ten grams.
function weighing() {
  const now = as(), step = steps[now.at], g = onScale();
  if (g === null) return;
  if (Math.abs(scale.g) < EMPTY_G) base = 0; // the scale is empty
  if (step?.kind !== "weigh" && step?.kind !== "divide") return;
  if (byItself && scale.steady && !step.counted && step.want_g >= offers.rules.alone_g && Math.abs(g - step.want_g) <= near(step)) take(step);
}

// take keeps what the scale says and goes on; the next line counts from there.
function take(step) {
  const g = Math.round(onScale() * 10) / 10;
  if (!(g >= 0) || !once("take")) return;
  base = step.kind === "divide" ? 0 : scale.g;
  tap("weighed", { step: step.key, g, scale: true });
  tap("done", { step: step.key });
}

function note(text) {
  const el = $("unsent");
  el.hidden = false;
  el.dataset.is = "note";
  el.textContent = text;
}

// keys are those of the step that is on: what they say and do. The last is the one to go on.
function keys(now, step) {
  const p = panels, back_ = ["Back", back, now.last];
  if (looking !== null) return [["Earlier", () => look(looking - 1), looking > 0], ["Later", () => look(looking + 1), looking < steps.length - 1], ["Back to what is on", () => look(null)]];
  if (!step) {
    if (state.ended) return [["Go on with it", () => tap("taken_back", { of: state.ended })], ["How it went", () => (location.href = "/bench/" + bench.dataset.id + "/made")]];
    return [...p.FELT.map((word, i) => [word + (state.felt === i - 2 ? " ✓" : ""), () => tap("felt", { n: i - 2 })]), back_, ["Throw it away", () => p.thrown()], ["End it", p.end]];
  }
  const clock = now.clocks.find((c) => c.step === step.key), out = [back_];
  if (step.kind === "set_out" && offers.makers.length <= 6) out.push(...offers.makers.map((m) => [m + (maker() === m ? " ✓" : ""), () => p.pick(m)]));
  if (clock && step.kind !== "wait") out.push(clock.paused ? ["Go on", () => tap("resumed", { step: step.key })] : ["Pause", () => tap("paused", { step: step.key })]);
  if (clock) out.push(["+1 min", () => tap("minutes", { step: step.key, min: 1 })]);
  if (p.poked()) out.push(["Half back", p.poke]);
  else if ((step.station === "knead" && clock) || step.station === "rest") out.push(["Try it", p.tests]);
  if (step.station === "rest" && state.felt === null) out.push(["It feels …", p.feels]);
  if (step.station === "dry" || step.kind === "pot") out.push(["It looks …", p.looks]);
  if (step.want_g && scale && !scale.silent) out.push(["Zero", () => (base = scale.g)], ["Keep it", () => take(step)]);
  if (step.want_g) out.push(["Type it", () => p.typeIt(step)]);
  const card = carded(step);
  if (step.kind === "pass" && step.pass < step.passes && !card) out.push(["Piece done", () => pieceDone(now, step)]);
  if (card) out.push(["Pass done", passDone]);
  if (step.kind === "pass" && step.piece > 1 && step.passes > 1) out.push([card ? "Pass by pass" : "Piece by piece", turnCard]);
  if (step.kind === "pass" && step.stop) out.push(["Thickness", p.thickness]);
  if (step.kind === "divide" && step.piece < step.pieces) out.push(["All divided", () => allDone(now, "divide")]);
  if (step.kind === "cut" && step.count) out.push(["+1 " + step.count_name.replace(/s$/, ""), () => tap("made", { step: step.key, n: 1 })], ["+5", () => tap("made", { step: step.key, n: 5 }), step.count >= 10],
    ["−1", () => tap("made", { step: step.key, n: -1 }), now.done[now.at].made > 0]);
  out.push(["Something wrong?", p.wrong], ["More", p.more], [card ? "Piece done" : step.on, on]);
  return out;
}

// mine are the places of the passes of a step's piece.
const mine = (step) => [...steps.keys()].filter((i) => steps[i].kind === "pass" && steps[i].piece === step.piece);

function pieceDone(now, step) {
  if (!once("piece")) return;
  const all = [...steps.keys()].filter((i) => steps[i].piece === step.piece && (steps[i].kind === "pass" || steps[i].kind === "wait"));
  burst = all.filter((i) => i >= now.at && !closed(now.done[i])).map((i) => tap("done", { step: steps[i].key }).id);
}
function passDone() {
  const now = as();
  if (now.at < steps.length && once("pass")) tap("done", { step: steps[now.at].key });
}
function allDone(now, kind) {
  if (!once("all")) return;
  for (const [i, s] of steps.entries()) if (s.kind === kind && i >= now.at && !closed(now.done[i])) tap("done", { step: s.key });
}

// look shows another step without doing anything; null is back to the one that is on.
let looking = null;
function look(at) {
  looking = at === null ? null : Math.min(Math.max(at, 0), steps.length - 1);
  draw();
}

let drawn = ""; // what the keys were drawn for
let shownStep = -2;
function draw() {
  const now = as();
  if (shownStep !== now.at) {
    shownStep = now.at;
    looking = null;
    panels.unpoke();
  }
  const at = looking ?? now.at, step = steps[at];
  bench.dataset.step = step?.key ?? "";
  text("head", step ? step.head : state.ended ? "Ended" : "All is done");
  text("say", step ? step.say ?? "" : state.ended ? "What was done is kept." : "How did the dough feel? Then end it.");
  text("count", (looking === null ? "" : "looking at ") + (step ? "step " + (at + 1) + " of " + steps.length : steps.length + " steps"));
  text("maker", maker());
  $("maker").hidden = !maker();
  const changed = (state.changes ?? []).filter((c) => c.step === (step?.key ?? "")).map((c) => c.text).join("; ");
  text("change", changed && changed[0].toUpperCase() + changed.slice(1) + ".");
  const own = !step || looking !== null || !carded(step) ? step?.sign ?? [] : [...new Set(mine(step).flatMap((i) => (steps[i].sign ?? []).slice(i === mine(step).at(-1) ? 0 : 1).map((s) => (i === mine(step).at(-1) ? s : "Stop " + steps[i].stop + ": " + s[0].toLowerCase() + s.slice(1)))))];
  const signs = step ? [...found(now, step).map((s) => [s, "found"]), ...own.map((s) => [s, ""]), ...(step.caution ? [[step.caution, "why"]] : [])] : [];
  list("signs", signs);
  $("signs").previousElementSibling.hidden = signs.length === 0;
  pieces(now, step);
  row(now, step);
  peek(at);
  const list_ = keys(now, steps[now.at]).filter(([, , show]) => show === undefined || show);
  const mark = list_.map((k) => k[0]).join("|") + at + now.last;
  if (mark !== drawn) {
    drawn = mark;
    const focus = [...$("knuckles").children].indexOf(document.activeElement);
    $("knuckles").style.setProperty("--keys", Math.max(1, list_.length - 1));
    $("knuckles").classList.toggle("many", list_.length > 6);
    $("knuckles").replaceChildren(...list_.map(([words, act], i) => key(words, act, i === list_.length - 1)));
    for (const b of $("knuckles").children) if (b.textContent === "Keep it") b.dataset.keep = "yes"; // it says what it would keep
    if (focus >= 0) $("knuckles").children[Math.min(focus, list_.length - 1)]?.focus({ preventScroll: true });
  }
  $("knuckles").hidden = false;
  tick();
}

// found is what was tried, measured and named at a step.
function found(now, step) {
  const d = now.done[steps.indexOf(step)] ?? {}, out = [];
  if (d.poke_s) out.push("Poked: half back in " + shown(d.poke_s) + " s.");
  if (d.flex) out.push(d.flex === "yes" ? "It bends without cracking." : "It cracks when it is bent.");
  if (d.window) out.push(d.window === "yes" ? "Light shines through." : "It tears before light shines through.");
  if (d.look) out.push("It looks: " + d.look + ".");
  if (d.mm) out.push("Measured: " + shown(Math.round(d.mm * 100) / 100) + " mm.");
  if (d.seen) out.push({ hand: "Your hand shows through it here.", print: "Print can be read through it here." }[d.seen]);
  if (d.loss) out.push("Lost " + shown(Math.round(d.loss * 1000) / 10) + " % so far.");
  if (d.shrunk) out.push("A ribbon pulled in " + shown(Math.round(d.shrunk * 1000) / 10) + " %.");
  if (d.made_g) out.push("Weighed: " + grams(d.made_g) + " in all.");
  if (step.piece && state.shapes[step.piece]) out.push("Becomes " + (offers.shapes.find((x) => x.key === state.shapes[step.piece])?.name ?? state.shapes[step.piece]) + ".");
  return out;
}

function text(id, words) {
  if ($(id).textContent !== words) $(id).textContent = words;
}
function list(id, rows) {
  const mark = JSON.stringify(rows);
  if ($(id).dataset.mark === mark) return;
  $(id).dataset.mark = mark;
  $(id).replaceChildren(...rows.map(([words, cls]) => {
    const li = document.createElement("li");
    li.className = cls;
    li.textContent = words;
    return li;
  }));
}

function pieces(now, step) {
  const el = $("pieces");
  el.hidden = !step?.pieces || step.pieces > 40;
  if (el.hidden) return;
  const mark = steps.indexOf(step) + ":" + now.at + ":" + step.pieces;
  if (el.dataset.mark === mark) return;
  el.dataset.mark = mark;
  el.replaceChildren(...Array.from({ length: step.pieces }, (_, i) => {
    const span = document.createElement("span");
    const mine = steps.map((s, j) => [s, now.done[j]]).filter(([s]) => s.kind === step.kind && s.piece === i + 1);
    span.textContent = i + 1;
    span.className = i + 1 === step.piece ? "at" : mine.every(([, d]) => d.status === "done") ? "in" : "";
    return span;
  }));
}

// row is a piece as one card: its stops in a row, large, what stands beside each small, the present one marked. A tap on
// it is the present pass done.
function row(now, step) {
  const el = $("passes"), show = looking === null && carded(step);
  el.hidden = !show;
  bench.classList.toggle("carded", show);
  if (!show) return;
  const all = mine(step), mark = step.piece + ":" + now.at + ":" + all.map((i) => now.done[i].status).join();
  if (el.dataset.mark === mark) return;
  el.dataset.mark = mark;
  el.classList.toggle("small", all.length > 8);
  el.replaceChildren(...all.map((i) => {
    const s = steps[i], li = document.createElement("li"), b = document.createElement("b"), small = document.createElement("small");
    b.textContent = s.stop;
    small.textContent = [s.halve && "halve", s.fold && "fold", s.first].filter(Boolean).join(", ");
    li.className = i === now.at ? "at" : closed(now.done[i]) ? "in" : "";
    if (i === now.at) li.setAttribute("aria-current", "step");
    li.append(b, small);
    return li;
  }));
}
$("passes").addEventListener("click", passDone);

function peek(at) {
  // Pieces still to divide are one thing to come, as are the passes of later pieces.
  const next = [], mark = at + ":" + steps.length;
  for (const s of steps.slice(at + 1)) {
    if (next.length === 4) break;
    if (s.kind === "divide" && (steps[at]?.kind === "divide" || next.at(-1)?.kind === "divide")) continue;
    if (s.kind === "pass" && s.piece > (steps[at]?.piece ?? 1) && (s.pass > 1 || next.some((x) => x.kind === "pass" && x.piece > (steps[at]?.piece ?? 1)))) continue;
    next.push(s);
  }
  if ($("peek").dataset.mark === mark) return;
  $("peek").dataset.mark = mark;
  $("peek").replaceChildren(...next.map((s, i) => {
    const div = document.createElement("div"), bar = document.createElement("i"), b = document.createElement("b");
    div.style.setProperty("--thick", Math.max(3, s.sheet_mm ? Math.min(16, 3 * s.sheet_mm) : 16 - 3 * i) + "px");
    b.textContent = (s.kind === "pass" && s.name && s.piece === steps[at]?.piece ? s.name : s.kind === "pass" && s.name ? s.head + ", " + s.name.toLowerCase() : s.head) + (s.min && s.kind === "wait" ? " " + Math.round(s.min) + " min" : "");
    div.append(bar, b, document.createElement("br"), s.want_g ? grams(s.want_g) : brief(s.say ?? ""));
    return div;
  }));
}

// brief is the first sentence, cut at a word.
function brief(words) {
  const first = words.split(". ")[0];
  return first.length <= 64 ? first : first.slice(0, 64).replace(/\s\S*$/, "") + " …";
}

// long is minutes as hours and minutes.
const long = (min) => (min < 60 ? min + " min" : Math.floor(min / 60) + " h " + String(min % 60).padStart(2, "0"));

// face writes the large figure, what it is before it and a unit after it smaller.
function face(words, unit = "", cls = "", what = "") {
  const el = $("face"), mark = what + "|" + words + "|" + unit;
  el.className = "face " + cls;
  if (el.dataset.mark === mark) return;
  el.dataset.mark = mark;
  const small = (text) => {
    const span = document.createElement("span");
    span.className = "unit";
    span.textContent = text;
    return span;
  };
  el.replaceChildren(...(what ? [small(what)] : []), words, ...(unit ? [small(unit)] : []));
}

const rung = new Set();
function tick() {
  const now = as(), at = looking ?? now.at, step = steps[at];
  const clock = step && now.clocks.find((c) => c.step === step.key);
  food();
  text("clock", new Date(line.now()).toTimeString().slice(0, 5));
  picture($("bar"), { step, clock, done: now.done[at], left: clock && left(clock), g: onScale(), near, next: steps[at + 1], offers, grams });
  if (clock) {
    const s = left(clock);
    face(clocked(s), "", (s < 0 ? "over" : "") + (clocked(s).length > 4 ? " long" : ""));
    text("beside", (clock.paused ? "paused, " : "") + (s < 0 ? "over" : "left") + " of " + shown(Math.round(clock.length_s / 6) / 10) + " min");
  } else if (step?.want_g && onScale() !== null) {
    const g = onScale(), more = step.want_g - g;
    const fine = step.want_g < offers.rules.alone_g ? 10 : 1; // tenths of a gram only where few are wanted
    const still = Math.round(g * fine) / fine || 0; // no minus before nought
    face(g < -LIFTED_G ? "–" : mass(offers.ounces ? g : still)[0].replace("-", "−"), mass(g)[1], "sm");
    const keep = [...$("knuckles").children].find((x) => x.dataset.keep);
    if (keep && looking === null) keep.textContent = g < 0 ? "Keep it" : "Keep " + (offers.ounces ? grams(g) : shown(still) + " g");
    text("beside", g < -LIFTED_G ? "lifted: set it back" : more > near(step) ? "add " + grams(more) : more < -near(step) ? grams(-more) + " too much" : "right" + (scale.steady ? "" : ", settling"));
  } else if (step?.want_g) {
    const g = now.done[at].g;
    face(...mass(g || step.want_g), "sm");
    text("beside", g ? "weighed of " + grams(step.want_g) : step.counted ? step.much : scale?.silent ? "the scale is silent" : "to weigh");
  } else if (carded(step) && looking === null) {
    face("");
    text("beside", waiting(now, step).replace(/^; /, ""));
  } else if (step?.stop) {
    face(step.stop, "", step.stop.length > 3 ? "word" : "", step.stop.length > 3 ? "" : "stop"); // a pin has a word
    text("beside", (step.own ? "put in" : "pass " + step.pass + " of " + step.passes) + (step.halve ? ", halve it first" : "") + (step.fold ? ", folded" : "") + waiting(now, step));
  } else if (step?.kind === "cut" && step.count) {
    face(String(now.done[at].made ?? 0), "of " + step.count, "sm");
    text("beside", step.count_name + " made");
  } else if (!step) {
    const { began } = state, over = Math.max(...now.done.map((d) => d.over || 0));
    face(over > began ? long(Math.round((over - began) / 60000)) : "", "", "word");
    text("beside", over > began ? "from the first touch to the last" : "");
  } else {
    face(step?.much ?? "", "", "word");
    text("beside", step?.kind === "pack" && foodNow().past ? state.food.past : "");
  }
  if (panels.poked()) text("beside", "poked " + shown(((performance.now() - panels.poked()) / 1000).toFixed(1)) + " s ago: tap at half back");
  const others = now.clocks.filter((c) => c.step !== step?.key);
  chips("clocks", others.map((c) => [c.name, left(c)]));
  // Of the clocks of other makings the two that end first.
  const also = state.also.toSorted((a, b) => left(a) - left(b)).slice(0, 2);
  $("also").hidden = also.length === 0;
  text("also", also.map((c) => (left(c) < 0 ? clocked(left(c)) + " over" : clocked(left(c))) + " " + c.of + ": " + c.name).join("; "));
  for (const c of now.clocks) {
    const k = c.id + c.length_s;
    if (left(c) > 0) rung.delete(k);
    else if (!rung.has(k)) {
      rung.add(k);
      if (left(c) > -30) { // not one that ended before the page was there
        ring(c.name + ": time is up");
        text("told", c.name + ": time is up");
      }
    }
  }
  const over = now.clocks.find((c) => left(c) <= 0);
  document.title = state.ended ? "Ended: " + bench.querySelector(".bench-top .serif").textContent : over ? clocked(left(over)) + " over: " + over.name : clock ? clocked(left(clock)) + " " + step.head : "Bench: " + (step?.head ?? "done");
  const soon = now.clocks.some((c) => c.length_s < 60 * AWAKE_MIN && !c.paused);
  awake(Boolean(step) && (!step.unattended || soon));
}

// waiting says which pieces wait for the rollers, and for how long by now.
function waiting(now, step) {
  const later = new Set(steps.filter((s, i) => s.kind === "pass" && s.piece > step.piece && now.done[i].status === "to_do").map((s) => s.piece));
  if (!later.size) return "";
  const since = Math.max(...now.done.map((d, i) => (steps[i].kind === "divide" || steps[i].station === "rest" ? (d.over ?? 0) : 0)));
  const min = since ? Math.floor((line.now() - since) / 60000) : 0;
  return "; " + later.size + (later.size === 1 ? " waits" : " wait") + " under the cloth" + (min > 0 ? ", " + min + " min" : "");
}

// foodNow is what the clock of the egg says by now: its minutes, the sentence for them, and whether usual advice gives it up.
function foodNow() {
  const f = state.food, min = (f.used_s + (f.since ? Math.max(0, line.now() - f.since) / 1000 : 0)) / 60;
  const past = Boolean(f.discard_min) && min >= f.discard_min && !f.hung;
  return { min, past, words: past ? f.past : min >= f.caution_min ? f.soon : f.fine };
}

// food is how long the dough has been out of the fridge, by what happened.
function food() {
  const f = state.food, el = $("food"), { min } = foodNow();
  el.hidden = !f.caution_min || min < 1;
  if (el.hidden) return;
  const words = Math.floor(min / 60) + ":" + pad(Math.floor(min % 60)) + " h out of the fridge";
  el.classList.toggle("over", min >= f.caution_min);
  text("food", words + (min >= f.discard_min ? ", past the usual advice" : min >= f.caution_min ? ", soon past the usual advice" : ""));
}

function chips(id, rows) {
  const el = $(id);
  while (el.children.length > rows.length) el.lastChild.remove();
  while (el.children.length < rows.length) el.append(document.createElement("span"));
  rows.forEach(([name, s], i) => {
    const words = name + " " + (s < 0 ? clocked(s) + " over" : clocked(s));
    const span = el.children[i];
    if (span.textContent !== words) span.textContent = words;
    span.className = s < 0 ? "over" : "";
  });
}

let awoken = null;
function awake(want) {
  if (awoken === want) return;
  awoken = want;
  stayAwake(want).then((can) => {
    if (!can && want && !localStorage.getItem("bench-sleep-said")) {
      localStorage.setItem("bench-sleep-said", "yes");
      note("This browser cannot keep the screen on: set the tablet’s own sleep longer.");
    }
  });
}
document.addEventListener("visibilitychange", () => {
  if (document.visibilityState === "visible") {
    awoken = null;
    tick();
  }
});

// The space bar and a page-turning pedal: on and back, whatever has the focus; held down they count once.
document.addEventListener("keydown", (e) => {
  if (document.querySelector("dialog[open]")) return;
  const what = { " ": "on", PageDown: "on", PageUp: "back" }[e.key];
  if (!what) return;
  e.preventDefault();
  if (e.repeat) return;
  if (what === "on") as().at < steps.length ? on() : [...$("knuckles").children].at(-1)?.click();
  else back();
});
document.addEventListener("keyup", (e) => e.key === " " && !document.querySelector("dialog[open]") && e.preventDefault());

for (const first of ["pointerdown", "keydown"]) document.addEventListener(first, () => setTimeout(unlock), { capture: true });

draw();
setInterval(tick, TICK_MS);
new ResizeObserver(() => tick()).observe($("bar")); // it is drawn for the width it gets
