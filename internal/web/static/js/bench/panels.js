// The panels of the bench: what is asked, measured, put in, named, and what is wrong. Each is large keys over the page.
import { allowNotices } from "./alarm.js";
import { shown } from "../page/number.js";
import { reader } from "./quantity.js";

const $ = (id) => document.getElementById(id);
const MOST_G = 200000, OZ = 28.349523125;

// key is one large key.
export function key(words, act, go = false) {
  const b = document.createElement("button");
  b.type = "button";
  b.className = "btn " + (go ? "btn-go" : "btn-line");
  b.textContent = words;
  b.addEventListener("click", act);
  return b;
}

// panelsOf returns what opens the panels of a bench. now gives how it stands, step the one that is on, tap makes an event.
export function panelsOf({ now, steps, state, tap, redraw, offers, signs, id, look, reading, scale, food }) {
  const step = () => steps()[now().at];
  // typable is a mass as it may be typed, in the unit shown.
  const typable = (g) => shown(Math.round(offers.ounces ? (g / OZ) * 10 : g) / (offers.ounces ? 10 : 1));
  const unit = offers.ounces ? "oz" : "g";

  // figure reads what was typed; what is asked back for it stands in asked until the next one.
  const read = reader(offers.reading);
  let asked = "";
  function figure(text, kept, alone) {
    const { v, ask } = read(text, kept, alone);
    if (ask) asked = ask[0].toUpperCase() + ask.slice(1) + ".";
    return v;
  }
  // mass reads grams: in the unit shown, or in the one that is written.
  const mass = (text) => figure(text, "g", offers.ounces ? OZ : 1);
  const minutesOf = (text) => figure(text, "min");
  const long = (text) => figure(text, "mm");
  const count = (text) => figure(text, "");
  // why is what is said beside a figure that is not read.
  function why(otherwise) {
    const words = asked || otherwise;
    asked = "";
    return words;
  }
  const noMass = () => why("A number of " + (offers.ounces ? "ounces" : "grams") + " is read, as in " + (offers.ounces ? "19.5." : "541."));
  const bad = (g, least = 0) => !(g >= least && g <= MOST_G);

  // panel fills the large keys over the page: a head, what is to be said, and the keys, each a label, what it does,
  // whether it is there, and a small drawing before its label.
  function panel(head, words, list) {
    $("more-head").textContent = head;
    $("more-say").hidden = !words;
    $("more-say").textContent = words;
    $("more-keys").replaceChildren(...list.filter(([, , show]) => show === undefined || show).map(([label, act, , look = ""]) => {
      const b = key(label, () => {
        $("more").close();
        act();
      });
      b.insertAdjacentHTML("afterbegin", look);
      return b;
    }), closing());
    if (!$("more").open) $("more").showModal();
  }

  function closing() {
    const b = key("Close", () => $("more").close());
    b.classList.add("close");
    return b;
  }

  // ask opens a question of up to three lines, each a label, what stands in it and how it is typed; answer gets what was
  // typed, and returns what is wrong.
  let answer = null, left = null;
  function ask(head, lines, then, leave = null) {
    $("ask-head").textContent = head;
    for (const [i, el] of [...document.querySelectorAll("#ask .typed")].entries()) {
      const [label, value, mode] = lines[i] ?? ["", "", "text"];
      el.hidden = i >= lines.length;
      el.firstElementChild.textContent = label;
      el.lastElementChild.value = value ?? "";
      el.lastElementChild.inputMode = mode ?? "text";
    }
    $("ask-err").textContent = asked = "";
    answer = then;
    left = leave;
    $("more").close();
    if (!$("ask").open) $("ask").showModal();
    $("ask-text").select();
  }
  $("ask").querySelector("form").addEventListener("submit", (e) => {
    e.preventDefault();
    const asked = answer;
    const wrong = asked(...[...document.querySelectorAll("#ask input")].map((x) => x.value.trim()));
    if (answer !== asked) return; // one question leads to another
    $("ask-err").textContent = wrong ?? "";
    if (!wrong) $("ask").close();
  });
  // Leaving a question has nothing to say to it. Most are over then; one that is part of something goes on.
  $("ask-no").addEventListener("click", () => {
    const goOn = left;
    $("ask").close();
    goOn?.(...[...document.querySelectorAll("#ask input")].map((x) => x.value.trim()));
  });

  const words = (head, label, what, more = {}) => ask(head, [[label]], (text) => (text ? void tap(what, { text: text.slice(0, 300), ...more }) : "A word or two."));
  function amount(head, text, what, of) {
    ask(head, [["How much, " + unit, "", "decimal"]], (typed) => {
      const g = mass(typed);
      if (bad(g, 0.01)) return noMass();
      tap(what, { text, g, of });
    });
  }

  function typeIt(s) {
    ask(s.head, [["Weighed, " + unit, "", "decimal"]], (typed) => {
      const g = mass(typed);
      if (bad(g)) return noMass();
      tap("weighed", { step: s.key, g });
    });
  }

  // What is seen, narrowed down by its questions, with what to do about it; doing it is kept.
  function wrong() {
    const s = step();
    panel("Something wrong?", "What do you see?", [
      ...signs.filter((x) => !s || x.station === s.station).map((sign) => [sign.name, () => narrow(sign, 0, {}), true, sign.look]),
      ["In my words", () => ask("Something wrong?", [["What do you see, and what was done about it?"]], (text) => {
        if (!text) return "A word or two, so that it can be read later.";
        tap("seen", { text: text.slice(0, 300), step: s?.key });
      })],
    ]);
  }
  function narrow(sign, i, told) {
    const waited = sign.waits && state().food.caution_min ? food() : null;
    if (waited?.past) return void panel(sign.name, waited.words, [["Throw it away", () => thrown("Too long out of the fridge")]]);
    if (waited && i === 0) return void panel(sign.name, waited.words, [["And now?", () => askOf(sign, 0, told)]]);
    askOf(sign, i, told);
  }
  function askOf(sign, i, told) {
    const q = sign.questions[i];
    if (!q) return treat(sign, sign.findings.filter((f) => {
      const [k, want] = (f.if ?? "").split("=");
      return !f.if || !told[k] || told[k] === want;
    }).toSorted((a, b) => Boolean(b.if && told[b.if.split("=")[0]]) - Boolean(a.if && told[a.if.split("=")[0]])), 0);
    panel(sign.name, q.text, [...q.answers.map(([k, text]) => [text, () => askOf(sign, i + 1, { ...told, [q.key]: k })]),
      ["I cannot tell", () => askOf(sign, i + 1, told)]]);
  }
  function treat(sign, findings, i) {
    const f = findings[i], s = step();
    if (!f) return wrong();
    const seen = (g) => tap("seen", { step: s?.key, sign: sign.key, of: g ? f.act : undefined, g: g || undefined, text: (sign.name + ": " + f.do).slice(0, 300) });
    const adds = ["water", "flour", "egg", "milk", "oil"].includes(f.act);
    panel(sign.name, f.why + " " + f.do + " " + f.expect + " " + f.stop, [
      ["Done so", () => seen(adds ? f.amount : 0)],
      ["Another amount", () => ask(sign.name, [["Of " + f.act + " went in, " + unit, "", "decimal"]], (typed) => {
        const g = mass(typed);
        if (bad(g, 0.01)) return noMass();
        seen(g);
      }), adds],
      [(f.act === "knead" ? "Knead " : "Rest ") + f.amount + " min now", () => {
        seen(0);
        tap("put_in", { step: s?.key, of: f.act, text: f.act === "knead" ? "Knead on" : "Rest on", min: f.amount });
      }, f.act === "knead" || f.act === "rest"],
      ["Another cause", () => treat(sign, findings, i + 1), i + 1 < findings.length],
    ]);
  }

  // poke: a tap as the dough is poked, one when it has come half back.
  let poked = 0;
  function poke() {
    if (!poked) {
      poked = performance.now();
      return redraw();
    }
    const s = Math.min(60, (performance.now() - poked) / 1000);
    poked = 0;
    tap("poked", { step: step().key, s: Math.max(0.1, Math.round(s * 10) / 10) });
  }
  function unpoke() {
    poked = 0;
  }

  const FELT = ["Too dry", "A little dry", "Right", "A little wet", "Too wet"];
  const feels = () => panel("How does it feel?", "The last word counts.", FELT.map((w, i) => [w, () => tap("felt", { n: i - 2 })]));
  const looks = () => panel("How does it look?", step().sign?.join(" ") ?? "", ["not yet", "right", "past"].map((w) => [w, () => tap("looked", { step: step().key, text: w })]));
  const yes = (head, say, what) => panel(head, say, [["Yes", () => tap(what, { step: step().key, text: "yes" })], ["No", () => tap(what, { step: step().key, text: "no" })]]);
  function tests() {
    panel("Try it", "", [["Poke it, then tap", poke], ["Bends without cracking?", () => yes("Flex it", "Does it bend without cracking?", "flexed")],
      ["Light shines through?", () => yes("The window", "Stretched thin, does light shine through before it tears?", "window")], ["It looks …", looks], ["It feels …", feels]]);
  }
  function thickness() {
    const number = (head, label, field, least, most, say) => ask(head, [[label, "", "decimal"]], (text) => {
      const v = { g: mass, mm: long, n: count }[field](text);
      if (!(v >= least && v <= most)) return why(say);
      tap("measured", { step: step().key, [field]: field === "n" ? Math.round(v) : v });
    });
    panel("How thick is it?", "At the stop it is at now.", [
      ["By a caliper", () => number("By a caliper", "mm", "mm", 0.2, 60, "0.2 to 60 mm is read.")],
      ["My hand shows through", () => tap("measured", { step: step().key, of: "hand" })],
      ["I can read print through it", () => tap("measured", { step: step().key, of: "print" })],
      ["Beside leaves of paper", () => number("Leaves of 80 g/m² paper as high", "Leaves", "n", 2, 600, "2 to 600 leaves are read.")],
      ["A square of 100 mm, weighed", () => number("A square of 100 × 100 mm", "It weighs, " + unit, "g", 2, 900, "The grams of one square are read, as in 10.9.")]]);
  }
  function dried() {
    ask("Weigh what dries", [["It weighs now, " + unit, "", "decimal"], ["Raw it weighed, " + unit, "", "decimal"]], (a, b) => {
      const g = mass(a), from = mass(b);
      if (bad(g, 0.1) || bad(from, 0.1)) return noMass();
      if (g > from) return "It cannot weigh more now than raw.";
      tap("dried", { step: step().key, g, from_g: from });
    });
  }
  function shrunk() {
    ask("A ribbon has pulled in", [["It was cut, mm", "", "decimal"], ["It is now, mm", "", "decimal"]], (a, b) => {
      const from = long(a), mm = long(b);
      if (!(from >= 50 && from <= 3000)) return why("50 to 3000 mm is read.");
      if (!(mm >= 0.7 * from && mm <= 1.1 * from)) return why("From seven tenths of what was cut to a tenth over.");
      tap("shrunk", { step: step().key, mm, from_mm: from });
    });
  }
  function nests(s) {
    ask(s.count_name === "nests" ? "Weigh nests" : "Weigh some", [["How many " + s.count_name, "1", "numeric"], ["They weigh, " + unit, "", "decimal"]], (a, b) => {
      const n = count(a), g = mass(b);
      if (!(n >= 1 && n <= 1000 && n === Math.round(n))) return "A whole number from 1 on is read.";
      if (bad(g, 0.1)) return noMass();
      tap("made", { step: s.key, n, g });
    });
  }
  function putBy() {
    ask("Put by", [["Pieces of dough, none of sheets", "1", "numeric"], ["They weigh, " + unit, String(offers.piece_g), "decimal"]], (a, b) => {
      const n = count(a), g = mass(b);
      if (!(n >= 0 && n <= 500 && n === Math.round(n))) return "A whole number is read; 0 for sheets.";
      if (bad(g, 0.1)) return noMass();
      setTimeout(() => panel("Put by where?", "", ["fridge", "freezer", "room"].map((of) => ["In the " + of, () => tap("put_by", { text: n ? "dough" : "sheets", n, g, of })])));
    });
  }
  function packed() {
    ask("Packed", [["What", step()?.count_name ?? ""], ["How many", "", "numeric"], ["It weighs, " + unit, "", "decimal"]], (text, a, b) => {
      const n = a === "" ? 0 : count(a), g = b === "" ? 0 : mass(b);
      if (!text) return "What is packed?";
      if (!(n >= 0 && n <= 100000)) return "A number of pieces is read.";
      if (bad(g)) return noMass();
      setTimeout(() => panel("Packed where?", "", [["In the fridge", () => tap("packed", { text, n, g, of: "fridge" })], ["In the freezer", () => tap("packed", { text, n, g, of: "freezer" })],
        ["Neither", () => tap("packed", { text, n, g })]]));
    });
  }
  const shape = (s) => panel("What does piece " + s.piece + " become?", "Sheet and dough stay; how it is cut is worked out anew.",
    offers.shapes.map((x) => [x.name, () => tap("shape", { n: s.piece, text: x.key })]));
  // shapes asks of every piece that is rolled which shape it becomes: at the cut.
  const shapes = (s) => panel("Which piece?", "A shape may be decided as late as here.", Array.from({ length: pieces() }, (_, i) => ["Piece " + (i + 1), () => setTimeout(() => shape({ ...s, piece: i + 1 }))]));
  const pieces = () => Math.max(1, ...steps().map((s) => s.pieces ?? 0));
  function ends(s) {
    const later = steps().filter((x) => x.kind === "pass" && x.piece === s.piece).slice(s.pass);
    panel("Where does piece " + s.piece + " end?", "", [
      ["Here, at " + s.stop, () => tap("last_stop", { step: s.key }), later.length > 0],
      ...offers.stops.slice(offers.stops.indexOf(s.stop) + 1).map((stop) => ["At " + stop, () => finer(s, stop)])]);
  }
  // finer has a piece end at another stop: at a pass it has there, or at one that is put in after its last.
  function finer(s, stop) {
    const all = steps().filter((x) => x.kind === "pass" && x.piece === s.piece);
    const there = all.findLast((x) => x.stop === stop);
    if (there) return void tap("last_stop", { step: there.key });
    const after = steps()[steps().indexOf(all.at(-1)) + 1];
    tap("put_in", { step: after?.key, of: "pass", text: stop, n: s.piece });
  }
  function putIn() {
    const s = step();
    const timed = (head, of, min) => ask(head, [["What", head], ["Minutes", String(min), "decimal"]], (text, minutes) => {
      const m = minutesOf(minutes);
      if (!(m > 0 && m <= 1440)) return why("Minutes over nought are read, up to 1440.");
      if (!text) return "A word for it.";
      tap("put_in", { step: s?.key, of, text: text.slice(0, 60), min: m });
    });
    panel("Put a step in", "It comes now; what is on waits for it.", [["Knead on", () => timed("Knead on", "knead", 3)], ["Rest", () => timed("Rest on", "rest", 10)],
      ["Into the fridge", () => timed("Into the fridge", "fridge", 15)],
      ["This pass again", () => tap("put_in", { step: s.key, of: "pass", text: s.stop, n: s.piece }), s?.kind === "pass" && s.stop],
      ["Something else", () => ask("Put a step in", [["What is done"], ["Minutes, if it has any", "", "decimal"]], (text, minutes) => {
        const m = minutes === "" ? 0 : minutesOf(minutes);
        if (!(m >= 0 && m <= 1440)) return why("Minutes are read, up to 1440, or none.");
        if (!text) return "What is done?";
        tap("put_in", { step: s?.key, of: "step", text: text.slice(0, 60), min: m });
      })]]);
  }
  function went() { // in, and left over
    panel("What went in, what is left?", "It counts from now on.", [["Water added", () => amount("Water added", "water", "added")], ["Flour added", () => amount("Flour added", "flour", "added")],
      ["Egg added", () => amount("Egg added", "egg", "added")], ["Milk added", () => amount("Milk added", "milk", "added")], ["Oil added", () => amount("Oil added", "oil", "added")],
      ["Something else added", () => ask("Something else added", [["What"], ["How much, " + unit, "", "decimal"]], (text, typed) => {
        const g = mass(typed);
        if (!text) return "What went in?";
        if (bad(g, 0.01)) return noMass();
        tap("added", { text: text.slice(0, 300), g });
      })],
      ...offers.estimates.map((x) => [x.name + ", " + x.about, () => tap("added", { text: x.what, g: x.g, of: x.of })]),
      ["Flour left in the bowl", () => amount("Flour left in the bowl", "flour", "left")], ["Liquid left in the jug", () => amount("Liquid left in the jug", "water", "left")], ["Trimmings", () => amount("Trimmings", "trimmings", "left")], ["Trimmings kneaded in", () => amount("Trimmings kneaded into the next piece", "trimmings", "left", "kneaded in")]]);
  }
  const makers = () => panel("Who is at the bench?", "The name stands by what is tapped on this screen.", [...offers.makers.map((m) => [m, () => pick(m)]), ["Nobody named", () => pick("")]]);
  function pick(m) {
    if (m) localStorage.setItem("bench-maker", m);
    else localStorage.removeItem("bench-maker");
    if (m) tap("named", { of: "hands", text: m });
    redraw();
  }
  function names() {
    const lots = offers.lots[step()?.key] ?? Object.values(offers.lots).flat().filter((x, i, all) => all.indexOf(x) === i);
    panel("Name it", "", [...lots.map((l) => ["Lot: " + l, () => tap("named", { of: "lot", text: l })]), ...offers.eggs.map((e) => ["Eggs: " + e, () => tap("named", { of: "eggs", text: e })]),
      ["Another lot", () => words("Which lot?", "As it is called", "named", { of: "lot" })], ["Other eggs", () => words("Whose eggs?", "As they are called", "named", { of: "eggs" })]]);
  }

  // The sack on the scale: what it loses between two takings is water.
  function sack() {
    const lots = offers.lots[step()?.key] ?? Object.values(offers.lots).flat().filter((x, i, all) => all.indexOf(x) === i);
    const lies = scale.g(); // what lies on the scale stands there, to be kept or put right
    const weigh = (lot, when, head) => ask(head, [["Flour in it, without the sack, " + unit, lies > 50 ? typable(lies) : "", "decimal"]], (typed) => {
      const g = mass(typed);
      if (bad(g, 50)) return noMass();
      tap("sack", { text: lot, of: when, g });
    });
    panel("Weigh the sack", "Closed, without its own weight: after flour is taken, and before it is taken again.", lots.flatMap((l) => [["Before taking: " + l, () => weigh(l, "before", l + ", before taking")], ["Flour was taken: " + l, () => weigh(l, "taken", l + ", flour was taken")]]));
  }

  function clock() {
    ask("A clock", [["What for?", "Sauce"], ["Minutes", "20", "decimal"]], (text, minutes) => {
      const min = minutesOf(minutes);
      if (!(min > 0) || min > 1440) return why("Minutes over nought are read, up to 1440.");
      if (!text) return "A clock has a name.";
      tap("clock", { text: text.slice(0, 60), min });
    });
  }

  function more() {
    const n = now(), s = step();
    const also = state().also.map((c) => [c.making, c.of]).filter(([m], i, all) => all.findIndex(([x]) => x === m) === i);
    panel("More", "", [
      ["Leave the bench", () => (location.href = "/bench/" + id + "/made")],
      ["A clock of my own", clock],
      ["Put a clock away", () => panel("Which clock?", "", n.clocks.filter((x) => !x.step).map((c) => [c.name, () => tap("unclock", { of: c.id })])), n.clocks.some((c) => !c.step)],
      ["Weigh the sack", sack, Object.values(offers.lots).flat().length > 0],
      ["−1 min", () => tap("minutes", { step: s.key, min: -1 }), s?.min > 0],
      ["Pause", () => tap("paused", { step: s.key }), s?.kind === "wait" && !n.clocks.find((c) => c.step === s.key)?.paused],
      ["Go on", () => tap("resumed", { step: s.key }), s?.kind === "wait" && Boolean(n.clocks.find((c) => c.step === s.key)?.paused)],
      ["Try it", tests, s?.kind === "wait" || s?.kind === "work"],
      ["Thickness", thickness, s?.kind === "pass" || s?.kind === "cut"],
      ["Piece ends elsewhere", () => ends(s), s?.kind === "pass" && Boolean(s.stop)],
      ["Which shape?", () => (s.kind === "pass" ? shape(s) : shapes(s)), (s?.kind === "pass" || s?.kind === "cut") && offers.shapes.length > 0],
      ["Weigh " + (s?.count_name ?? ""), () => nests(s), s?.kind === "cut" && Boolean(s.count)],
      ["A ribbon has pulled in", shrunk, s?.kind === "cut"],
      ["A load on the rack", () => tap("clock", { text: "Rack, a load", min: s.rack_min }), s?.rack_min > 0],
      ["Weigh what dries", dried, s?.station === "dry"],
      ["Into the bowl, left over", went],
      ["Put a step in", putIn, Boolean(s)],
      ["Put by", putBy],
      ["Packed", packed],
      ["Name lot and eggs", names],
      ["Makers", makers, offers.makers.length > 0],
      ["It feels …", feels],
      ["A note", () => words("A note", "In your words", "note")],
      ["Leave this out", () => leaveOut(s), Boolean(s)],
      ["Look at other steps", () => look(n.at)],
      [reading.on ? "Stop reading aloud" : "Read aloud", () => (reading.on = !reading.on)],
      ["Allow notices", () => allowNotices()],
      [scale.byItself() ? "Scale: only by a tap" : "Scale: take by itself", scale.turn, scale.there()],
      ...also.map(([m, of]) => ["To " + of, () => (location.href = "/bench/" + m)]),
      ["End it here", end, Boolean(s)],
      ["Throw it away", () => thrown(), Boolean(s)],
      ["On another screen", () => (location.href = "/bench/" + id + "/screens")],
    ]);
  }

  // leaveOut asks: a step left out is not done, and what follows counts without it.
  function leaveOut(s) {
    panel("Leave this out?", s.head + " is not done then, and what follows counts without it.", [["Leave it out", () => tap("skipped", { step: s.key })]]);
  }

  const ended = (more) => {
    tap("ended", more);
    setTimeout(() => (location.href = "/bench/" + id + "/made"), 400);
  };
  // end asks what came out and what to do otherwise. Nothing typed is not weighed; 0 is nothing came out. Neither question must be answered.
  function end() {
    const next = (out) => ask("Next time", [["What to do otherwise, in your words"]], (text) => void ended({ ...out, text: text.slice(0, 300) }),
      (text) => ended({ ...out, text: text.slice(0, 300) }));
    const came = (a, b) => {
      const g = a === "" ? 0 : mass(a), n = b === "" ? 0 : count(b);
      if (bad(g)) return noMass();
      if (!(n >= 0 && n <= 100000 && n === Math.round(n))) return "A whole number of pieces is read, or nothing.";
      return { g, n, of: a === "" ? undefined : "weighed" };
    };
    ask("What came out?", [["Pasta in all, " + unit + "; empty: not weighed", "", "decimal"], ["In pieces, if counted", "", "numeric"]], (a, b) => {
      const out = came(a, b);
      if (typeof out === "string") return out;
      next(out);
      return "";
    }, (a, b) => {
      const out = came(a, b);
      next(typeof out === "string" ? { g: 0, n: 0 } : out);
    });
  }
  // thrown ends it as thrown away: why, and how much.
  function thrown(why = "") {
    ask("Thrown away", [["Why", why], ["How much, " + unit + "; empty: all of it", "", "decimal"]], (text, a) => {
      const g = a === "" ? 0 : mass(a);
      if (!text) return "A word for why: it stands in the log and the ledger.";
      if (bad(g)) return noMass();
      ended({ of: "thrown_away", text: text.slice(0, 300), g });
    });
  }

  return { typeIt, wrong, more, tests, thickness, ends, looks, feels, makers, pick, poke, unpoke, poked: () => poked, end, thrown, FELT, dried, shape };
}
