// The bench: one step on the screen, its keys, its clock. What is tapped shows at once; the server's word, when it
// comes, stands.
import { openLine } from "./bench-line.js";
import { allowNotices, ring, say as speak, stayAwake, unlock } from "./bench-alarm.js";
import { parse, shown } from "./number.js";

const bench = document.getElementById("bench");
const $ = (id) => document.getElementById(id);
let state = JSON.parse($("state").textContent);
let steps = state.steps;
const ONCE_MS = 400; // the same key again within this counts once
const AWAKE_MIN = 60; // clocks shorter than this keep the screen on
const TICK_MS = 200;

const number = (v) => shown(v >= 10 ? Math.round(v) : Math.round(v * 10) / 10);
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
const LIFTED_G = 5, EMPTY_G = 2, ALONE_G = 10;
const line = openLine(bench.dataset.id, {
  state(s, waiting) {
    if (s.seq < state.seq) return;
    if (s.steps) steps = s.steps;
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
  unsent(n, there) {
    const el = $("unsent");
    el.hidden = there && n === 0;
    el.textContent = there ? "" : "No server: going on without" + (n ? ", " + n + (n === 1 ? " tap" : " taps") + " kept" : "");
    if (there && n) el.hidden = true;
  },
});

local = line.waiting(); // of a page before this one, which the server may not have told of yet

// as is how the making stands with the taps the server has not told of yet.
function as() {
  const done = state.done.map((d) => ({ ...d }));
  const place = (key) => steps.findIndex((s) => s.key === key);
  const void_ = new Set();
  for (const e of local.toReversed()) if (e.what === "taken_back" && !void_.has(e.id)) void_.add(e.of);
  let went = state.went.filter((w) => !void_.has(w.id));
  for (const w of state.went) if (void_.has(w.id)) Object.assign(done[place(w.step)], { s: "to_do", o: 0 });
  let own = state.clocks.filter((c) => !c.step && !void_.has(c.id));
  const clockOf = (i) => {
    const known = state.clocks.find((c) => c.step === steps[i].key);
    return { id: steps[i].key, step: steps[i].key, name: steps[i].head, length_s: 60 * steps[i].min, paused_s: 0, ...known, began: done[i].b };
  };
  const at = () => done.findIndex((d) => d.s !== "done" && d.s !== "skipped");
  const clocks = new Map();
  const open = (t) => { // the step that is on runs, none after it
    const n = at();
    done.forEach((d, i) => i > n && n >= 0 && d.s === "running" && (d.s = "to_do"));
    if (n < 0) return;
    if (done[n].s === "to_do" && !done[n].b) done[n].b = t ?? (n > 0 && done[n - 1].o) ?? state.now;
    done[n].s = "running";
    if (steps[n].min > 0 && !clocks.has(steps[n].key)) clocks.set(steps[n].key, clockOf(n));
  };
  open();
  for (const e of local) {
    if (void_.has(e.id)) continue;
    const i = place(e.step), t = Date.parse(e.at);
    if ((e.what === "done" || e.what === "skipped") && i >= 0) {
      if (done[i].s === "done" || done[i].s === "skipped") continue;
      Object.assign(done[i], { s: e.what, o: t });
      clocks.delete(e.step);
      went = [...went, { id: e.id, step: e.step }];
      if (e.what === "done" && steps[i].then) own = [...own, { id: e.id, name: steps[i].then.name, began: t, length_s: 60 * steps[i].then.min }];
      open(t);
    } else if (e.what === "weighed" && i >= 0) done[i].g = e.g;
    else if (e.what === "clock" && !own.some((c) => c.id === e.id)) own = [...own, { id: e.id, name: e.text, began: t, length_s: 60 * e.min }];
    else if (e.what === "unclock") own = own.filter((c) => c.id !== e.of);
    else {
      const turn = (c) => {
        if (e.what === "paused" && !c.paused) return { ...c, paused: t };
        if (e.what === "resumed" && c.paused) return { ...c, paused: 0, paused_s: (c.paused_s ?? 0) + (t - c.paused) / 1000 };
        if (e.what === "minutes") return { ...c, length_s: Math.max(0, c.length_s + 60 * e.min) };
        return c;
      };
      if (clocks.has(e.step)) clocks.set(e.step, turn(clocks.get(e.step)));
      else own = own.map((c) => (c.id === e.of ? turn(c) : c));
    }
  }
  const n = at();
  return { done, clocks: [...clocks.values(), ...own], last: went.at(-1)?.id ?? "", at: n < 0 ? steps.length : n };
}

const left = (c) => c.length_s - ((c.paused ? c.paused : line.now()) - c.began) / 1000 + (c.paused_s ?? 0);

let counter = 0;
function tap(what, more = {}) {
  const id = Date.now().toString(36) + "-" + Math.random().toString(36).slice(2, 8) + "-" + counter++;
  const event = { id, what, at: new Date(line.now()).toISOString(), ...more };
  local = [...line.waiting(), event];
  line.send(event);
  draw();
  return event;
}

let pressed = { what: "", at: 0 };
// once says whether a key counts: not when it is the same again at once.
function once(what) {
  const t = performance.now();
  if (pressed.what === what && t - pressed.at < ONCE_MS) return false;
  pressed = { what, at: t };
  return true;
}

function on() {
  const now = as();
  if (now.at < steps.length && once("on")) {
    const step = steps[now.at];
    tap("done", { step: step.key });
    if (reading && steps[now.at + 1]) speak(steps[now.at + 1].head + ". " + (steps[now.at + 1].much ?? ""));
  }
}
function back() {
  const now = as();
  if (now.last && once("back")) tap("taken_back", { of: now.last });
}

// ask opens a question; answer gets the text, and the minutes where they are asked for, and returns what is wrong.
let answer = null;
function ask(head, label, text, minutes, then) {
  $("ask-head").textContent = head;
  $("ask-label").textContent = label;
  $("ask-text").value = text;
  $("ask-text").inputMode = minutes === undefined && label.includes("g") ? "decimal" : "text";
  $("ask-min").hidden = minutes === undefined;
  $("ask-minutes").value = minutes ?? "";
  $("ask-err").textContent = "";
  answer = then;
  $("more").close();
  if (!$("ask").open) $("ask").showModal();
  $("ask-text").select();
}
$("ask").querySelector("form").addEventListener("submit", (e) => {
  e.preventDefault();
  const asked = answer;
  const wrong = asked($("ask-text").value.trim(), $("ask-minutes").value);
  if (answer !== asked) return; // one question leads to another
  $("ask-err").textContent = wrong ?? "";
  if (!wrong) $("ask").close();
});
$("ask-no").addEventListener("click", () => $("ask").close());

// onScale is what lies on the scale of this line, g; null where no scale speaks.
const onScale = () => (scale && !scale.silent ? scale.g - base : null);
const near = (step) => Math.max(1, 0.01 * step.want_g);

// weighing takes a reading that is steady and right by itself: not of what is counted or less than ten grams.
function weighing() {
  const now = as(), step = steps[now.at], g = onScale();
  if (g === null) return;
  if (Math.abs(scale.g) < EMPTY_G) base = 0; // the scale is empty
  if (step?.kind !== "weigh" && step?.kind !== "divide") return;
  if (byItself && scale.steady && !step.counted && step.want_g >= ALONE_G && Math.abs(g - step.want_g) <= near(step)) take(step);
}

// take keeps what the scale says and goes on; the next line counts from there.
function take(step) {
  const g = Math.round(onScale() * 10) / 10;
  if (!(g >= 0) || !once("take")) return;
  base = step.kind === "divide" ? 0 : scale.g;
  tap("weighed", { step: step.key, g, scale: true });
  tap("done", { step: step.key });
}

function typeIt(step) {
  ask(step.head, "Weighed, g", "", undefined, (text) => {
    const g = parse(text.replace(/\s*g$/, ""));
    if (Number.isNaN(g) || g < 0 || g > 200000) return "A number of grams is read, as in 541.";
    tap("weighed", { step: step.key, g });
  });
}

function note(text) {
  const el = $("unsent");
  el.hidden = false;
  el.textContent = text;
}

let reading = false, poked = 0;
const FELT = ["Too dry", "A little dry", "Right", "A little wet", "Too wet"];

// keys are those of the step that is on: what they say and do. The last is the one to go on.
function keys(now, step) {
  if (!step) {
    if (state.ended) return [["Back", back, now.last], ["How it went", () => (location.href = "/bench/" + bench.dataset.id + "/made")]];
    return [...FELT.map((word, i) => [word + (state.felt === i - 2 ? " ✓" : ""), () => tap("felt", { n: i - 2 })]), ["Back", back, now.last],
      ["End it", () => ask("What came out?", "Pasta in all, g", "", undefined, (text) => {
        const g = text === "" ? 0 : parse(text.replace(/\s*g$/, ""));
        if (Number.isNaN(g) || g < 0 || g > 200000) return "A number of grams is read, or nothing.";
        ask("Next time", "What to do otherwise, in your words", "", undefined, (words) => {
          tap("ended", { g, text: words.slice(0, 300) });
          setTimeout(() => (location.href = "/bench/" + bench.dataset.id + "/made"), 400);
        });
        return "";
      })]];
  }
  const clock = now.clocks.find((c) => c.step === step.key);
  const out = [["Back", back, now.last]];
  if (clock) out.push(clock.paused ? ["Go on", () => tap("resumed", { step: step.key })] : ["Pause", () => tap("paused", { step: step.key })],
    ["+1 min", () => tap("minutes", { step: step.key, min: 1 })]);
  if (step.want_g && scale && !scale.silent) out.push(["Zero", () => (base = scale.g)], ["Keep it", () => take(step)]);
  if (step.want_g) out.push(["Type it", () => typeIt(step)]);
  if (step.kind === "pass" && step.pass < step.passes) out.push(["Piece done", () => pieceDone(now, step)]);
  if (step.kind === "divide" && step.piece < step.pieces) out.push(["All divided", () => allDone(now, "divide")]);
  out.push(["Something wrong?", wrong], ["More", more], [step.on, on]);
  return out;
}

function pieceDone(now, step) {
  if (!once("piece")) return;
  for (const [i, s] of steps.entries()) if (s.kind === "pass" && s.piece === step.piece && i >= now.at && now.done[i].s !== "done") tap("done", { step: s.key });
}
function allDone(now, kind) {
  if (!once("all")) return;
  for (const [i, s] of steps.entries()) if (s.kind === kind && i >= now.at && now.done[i].s !== "done") tap("done", { step: s.key });
}

// panel fills the large keys over the page: a head, what is to be said, and the keys.
function panel(head, words, list) {
  $("more-head").textContent = head;
  $("more-say").hidden = !words;
  $("more-say").textContent = words;
  $("more-keys").replaceChildren(...list.map(([label, act]) => key(label, () => {
    $("more").close();
    act();
  })));
  if (!$("more").open) $("more").showModal();
}

const signs = JSON.parse($("all-signs").textContent);
// wrong asks what is seen at this step; a sign says what to do about it with this dough, and doing it is kept.
function wrong() {
  const step = steps[as().at];
  const seen = (text) => tap("seen", { text: text.slice(0, 300), step: step?.key });
  const here = signs.filter((s) => !step || s.station === step.station);
  panel("Something wrong?", "What do you see?", [
    ...here.map((s) => [s.name, () => panel(s.name, s.do, [["Done so", () => seen(s.name + ": " + s.do)], ["Something else", wrong], ["Close", () => {}]])]),
    ["In my words", () => ask("Something wrong?", "What do you see, and what was done about it?", "", undefined, (text) => {
      if (!text) return "A word or two, so that it can be read later.";
      seen(text);
    })],
    ["Close", () => {}],
  ]);
}

function more() {
  const now = as(), step = steps[now.at];
  const list = [
    ["−1 min", () => tap("minutes", { step: step.key, min: -1 }), step?.min > 0],
    ["A clock of my own", () => ask("A clock", "What for?", "Sauce", "20", (text, minutes) => {
      const min = parse(minutes);
      if (!(min > 0) || min > 1440) return "Minutes over nought are read, up to 1440.";
      if (!text) return "A clock has a name.";
      tap("clock", { text: text.slice(0, 60), min });
    })],
    ["Put a clock away", () => {
      const c = now.clocks.filter((x) => !x.step).at(-1);
      if (c) tap("unclock", { of: c.id });
    }, now.clocks.some((c) => !c.step)],
    [poked ? "Half back: tap" : "Poke it, then tap", poke, step?.kind === "wait" || step?.kind === "work"],
    ["Water added", () => amount("Water added", "water", "added")],
    ["Flour left", () => amount("Flour left in the bowl", "flour", "left")],
    ["A note", () => ask("A note", "In your words", "", undefined, (text) => (text ? void tap("note", { text: text.slice(0, 300) }) : "A word or two."))],
    ["Leave this out", () => tap("skipped", { step: step.key }), step],
    [reading ? "Stop reading aloud" : "Read aloud", () => (reading = !reading)],
    ["Allow notices", () => allowNotices()],
    [byItself ? "Scale: only by a tap" : "Scale: take by itself", () => {
      byItself = !byItself;
      if (byItself) localStorage.removeItem("bench-take");
      else localStorage.setItem("bench-take", "no");
    }, scale],
    ...state.also.map((c) => c.making).filter((m, i, all) => all.indexOf(m) === i).map((m) => ["To " + state.also.find((c) => c.making === m).of, () => (location.href = "/bench/" + m)]),
    ["On another screen", () => (location.href = "/bench/" + bench.dataset.id + "/screens")],
    ["Leave the bench", () => (location.href = "/bench/" + bench.dataset.id + "/made")],
    ["Close", () => {}],
  ];
  panel("More", "", list.filter(([, , show]) => show === undefined || show));
}

function amount(head, of, what) {
  ask(head, "How much, g", "", undefined, (text) => {
    const g = parse(text.replace(/\s*g$/, ""));
    if (!(g > 0) || g > 200000) return "A number of grams is read, as in 12.";
    tap(what, { text: of, g });
  });
}

// poke: a tap as the dough is poked, one when it has come half back.
function poke() {
  const step = steps[as().at];
  if (!poked) {
    poked = performance.now();
    return draw();
  }
  const s = Math.min(60, (performance.now() - poked) / 1000);
  poked = 0;
  tap("poked", { step: step.key, s: Math.round(s * 10) / 10 });
}

function key(words, act, go = false) {
  const b = document.createElement("button");
  b.type = "button";
  b.className = "btn " + (go ? "btn-go" : "btn-line");
  b.textContent = words;
  b.addEventListener("click", act);
  return b;
}

let drawn = ""; // what the keys were drawn for
let shownStep = -2;
function draw() {
  const now = as(), step = steps[now.at];
  if (shownStep !== now.at) {
    shownStep = now.at;
    poked = 0;
  }
  text("head", step ? step.head : state.ended ? "Ended" : "All is done");
  text("say", step ? step.say ?? "" : state.ended ? "What was done is kept." : "How did the dough feel? Then end it.");
  text("count", step ? "step " + (now.at + 1) + " of " + steps.length : steps.length + " steps");
  text("change", state.change ?? "");
  const signs = step ? [...(step.sign ?? []).map((s) => [s, ""]), ...(step.caution ? [[step.caution, "why"]] : [])] : [];
  list("signs", signs);
  pieces(now, step);
  peek(now);
  const list_ = keys(now, step).filter(([, , show]) => show === undefined || show);
  const mark = list_.map((k) => k[0]).join("|") + now.at + now.last;
  if (mark !== drawn) {
    drawn = mark;
    const focus = [...$("knuckles").children].indexOf(document.activeElement);
    $("knuckles").style.setProperty("--keys", Math.max(1, list_.length - 1));
    $("knuckles").replaceChildren(...list_.map(([words, act], i) => key(words, act, i === list_.length - 1)));
    if (focus >= 0) $("knuckles").children[Math.min(focus, list_.length - 1)]?.focus({ preventScroll: true });
  }
  $("knuckles").hidden = false;
  tick();
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
  const mark = now.at + ":" + step.pieces;
  if (el.dataset.mark === mark) return;
  el.dataset.mark = mark;
  el.replaceChildren(...Array.from({ length: step.pieces }, (_, i) => {
    const span = document.createElement("span");
    const mine = steps.map((s, j) => [s, now.done[j]]).filter(([s]) => s.kind === step.kind && s.piece === i + 1);
    span.textContent = i + 1;
    span.className = i + 1 === step.piece ? "at" : mine.every(([, d]) => d.s === "done") ? "in" : "";
    return span;
  }));
}

function peek(now) {
  // Pieces still to divide are one thing to come, as are the passes of later pieces.
  const next = [], mark = now.at + ":" + steps.length;
  for (const s of steps.slice(now.at + 1)) {
    if (next.length === 4) break;
    if (s.kind === "divide" && (steps[now.at]?.kind === "divide" || next.at(-1)?.kind === "divide")) continue;
    if (s.kind === "pass" && next.at(-1)?.kind === "pass" && s.piece !== next.at(-1).piece && s.piece > 1 && next.some((x) => x.kind === "pass" && x.piece < s.piece)) continue;
    next.push(s);
  }
  if ($("peek").dataset.mark === mark) return;
  $("peek").dataset.mark = mark;
  $("peek").replaceChildren(...next.map((s, i) => {
    const div = document.createElement("div"), bar = document.createElement("i"), b = document.createElement("b");
    div.style.setProperty("--thick", Math.max(3, s.sheet_mm ? Math.min(16, 3 * s.sheet_mm) : 16 - 3 * i) + "px");
    b.textContent = (s.kind === "pass" && s.name && s.piece === steps[now.at]?.piece ? s.name : s.kind === "pass" && s.name ? s.head + ", " + s.name.toLowerCase() : s.head) + (s.min && s.kind === "wait" ? " " + Math.round(s.min) + " min" : "");
    div.append(bar, b, document.createElement("br"), s.want_g ? number(s.want_g) + " g" : brief(s.say ?? ""));
    return div;
  }));
}

// brief is the first sentence, cut at a word.
function brief(words) {
  const first = words.split(". ")[0];
  return first.length <= 64 ? first : first.slice(0, 64).replace(/\s\S*$/, "") + " …";
}

// face writes the large figure, a smaller unit after it.
function face(words, unit = "", cls = "") {
  const el = $("face"), mark = words + "|" + unit;
  el.className = "face " + cls;
  if (el.dataset.mark === mark) return;
  el.dataset.mark = mark;
  el.replaceChildren(words);
  if (unit) {
    const small = document.createElement("span");
    small.className = "unit";
    small.textContent = unit;
    el.append(small);
  }
}

const rung = new Set();
function tick() {
  const now = as(), step = steps[now.at];
  const clock = step && now.clocks.find((c) => c.step === step.key);
  text("clock", new Date(line.now()).toTimeString().slice(0, 5));
  bar(step, clock, now);
  if (clock) {
    const s = left(clock);
    face(clocked(s), "", (s < 0 ? "over" : "") + (clocked(s).length > 4 ? " long" : ""));
    text("beside", (clock.paused ? "paused, " : "") + (s < 0 ? "over" : "left") + " of " + shown(Math.round(clock.length_s / 6) / 10) + " min");
  } else if (step?.want_g && onScale() !== null) {
    const g = onScale(), more = step.want_g - g;
    face(g < -LIFTED_G ? "–" : shown(Math.abs(g) < 10 ? Math.round(g * 10) / 10 : Math.round(g)), "g", "sm");
    text("beside", g < -LIFTED_G ? "lifted: set it back" : more > near(step) ? "add " + number(more) + " g" : more < -near(step) ? number(-more) + " g too much" : "right" + (scale.steady ? "" : ", settling"));
  } else if (step?.want_g) {
    const g = now.done[now.at].g;
    face(number(g || step.want_g), "g", "sm");
    text("beside", g ? "weighed of " + number(step.want_g) + " g" : step.counted ? step.much : scale?.silent ? "the scale is silent" : "to weigh");
  } else if (step?.stop) {
    face(step.stop, "", step.stop.length > 3 ? "word" : "");
    text("beside", "pass " + step.pass + " of " + step.passes + (step.fold ? ", folded" : ""));
  } else {
    face("");
    text("beside", "");
  }
  if (poked) text("beside", "poked " + ((performance.now() - poked) / 1000).toFixed(1) + " s ago");
  const others = now.clocks.filter((c) => c.step !== step?.key);
  chips("clocks", others.map((c) => [c.name, left(c)]));
  // Of the clocks of other makings the two that end first.
  const also = state.also.toSorted((a, b) => left(a) - left(b)).slice(0, 2);
  $("also").hidden = also.length === 0;
  text("also", also.map((c) => c.of + ": " + c.name + ", " + (left(c) < 0 ? clocked(left(c)) + " over" : clocked(left(c)))).join("; "));
  for (const c of now.clocks) {
    const k = c.id + c.length_s;
    if (left(c) > 0) rung.delete(k);
    else if (!rung.has(k)) {
      rung.add(k);
      if (left(c) > -30) ring(c.name + ": time is up"); // not one that ended before the page was there
    }
  }
  const over = now.clocks.find((c) => left(c) <= 0);
  document.title = over ? clocked(left(over)) + " over: " + over.name : clock ? clocked(left(clock)) + " " + step.head : "Bench: " + (step?.head ?? "done");
  const soon = now.clocks.some((c) => c.length_s < 60 * AWAKE_MIN && !c.paused);
  awake(Boolean(step) && (!step.unattended || soon));
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

// bar is the step to scale: minutes done of those there are, or grams of those wanted.
function bar(step, clock, now) {
  const svg = $("bar"), g = step?.want_g ? Math.max(0, onScale() ?? now.done[now.at].g ?? 0) : 0;
  svg.classList.toggle("off", !clock && !step?.want_g);
  if (svg.classList.contains("off")) return;
  const whole = clock ? Math.max(clock.length_s, 1) : 1.13 * step.want_g;
  const done = clock ? Math.min(1, Math.max(0, (whole - left(clock)) / whole)) : Math.min(1, g / whole);
  const wide = svg.clientWidth || 1000; // drawn at the size it is shown
  const mark = Math.round(done * wide) + ":" + whole + ":" + wide + ":" + (step?.want_g ?? 0);
  if (svg.dataset.mark === mark) return;
  svg.dataset.mark = mark;
  svg.setAttribute("viewBox", "0 0 " + wide + " 104");
  const x = Math.round(done * wide);
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
    box = `<rect x="${a.toFixed(1)}" y="14" width="${Math.max(6, b - a).toFixed(1)}" height="58" class="ink bare" style="stroke-width:3;fill:none"/><text class="e b" x="${wide}" y="98" style="font-size:20px">${number(step.want_g)} ± ${Math.round(off)} g</text>`;
  } else box = `<path class="yolk" d="M${Math.min(Math.max(x, 12), wide - 12)} 66l-12 -16v-46h24v46z" style="stroke-width:2"/>`;
  svg.innerHTML = `<rect class="ground" x="0" y="22" width="${wide}" height="42"/><rect class="dough" x="0" y="22" width="${x}" height="42"/><path class="ink" d="M0 64H${wide}${ticks}"/>${words}${box}`;
  svg.setAttribute("aria-label", clock ? Math.round(done * 100) + " % of the time" : number(g) + " g of " + number(step.want_g));
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
