// How a making stands with the taps the server has not told of yet. It is what the core's fold says (core/bench/fold.go),
// from the state the server told last; a test holds the two equal.

export const closed = (d) => d.status === "done" || d.status === "skipped" || d.status === "unknown";

const S = 1000, MIN = 60; // a second in ms, a minute in s
const LEAVES_PER_MM = 10; // of 80 g/m² paper
const SQUARE_MM = 100;

// resume has a step that is paused go on.
function resume(d, t) {
  if (!d.paused) return;
  d.paused_s = (d.paused_s ?? 0) + Math.max(0, (t - d.paused) / S);
  d.paused = 0;
}

// AFRESH is a step that has not begun after all.
const AFRESH = { status: "to_do", began: 0, paused: 0, paused_s: 0 };

// NOTED is what an event of a step notes there.
const NOTED = {
  weighed: (d, e) => (d.g = e.g ?? 0),
  poked: (d, e) => (d.poke_s = e.s),
  looked: (d, e) => (d.look = e.text),
  flexed: (d, e) => (d.flex = e.text),
  window: (d, e) => (d.window = e.text),
  dried: (d, e) => (d.loss = Math.min(0.9, 1 - e.g / Math.max(e.from_g, e.g))),
  shrunk: (d, e) => (d.shrunk = 1 - e.mm / e.from_mm),
  measured(d, e, step) {
    if (e.of) d.seen = e.of;
    else if (e.mm > 0) d.mm = e.mm;
    else if (e.n > 0) d.mm = e.n / LEAVES_PER_MM;
    else if (step.density > 0) d.mm = (S * e.g) / (step.density * SQUARE_MM * SQUARE_MM);
  },
  made(d, e) {
    d.made = Math.max(0, (d.made ?? 0) + e.n);
    if (e.g > 0 && e.n > 0) d.made_g = (d.made_g ?? 0) + e.g;
  },
};

// ownStep is a step of the maker's own as it stands until the server tells of it.
function ownStep(e, near) {
  const rests = e.of === "rest" || e.of === "fridge";
  const own = {
    key: "own." + e.id, own: true, head: e.text, say: "Put in on the way.", min: e.min ?? 0,
    station: rests ? "rest" : near.station, kind: rests ? "wait" : "work", on: "Done, and on",
  };
  if (e.of !== "pass") return own;
  return { ...own, kind: "pass", piece: e.n, pieces: near.pieces, stop: e.text, min: 0, head: "Piece " + e.n };
}

// folded returns the steps, what is done of each, the clocks that run, the place of the step that is on, and the event
// that would be taken back. state and steps are what the server told last, local what it has not told of.
export function folded(state, steps, local) {
  const done = state.done.map((d) => ({ ...d }));
  const place = (key) => steps.findIndex((s) => s.key === key);
  const gone = new Set();
  for (const e of local.toReversed()) if (e.what === "taken_back" && !gone.has(e.id)) gone.add(e.of);
  let went = state.went.filter((w) => !gone.has(w.id));
  let own = state.clocks.filter((c) => !c.step && !gone.has(c.id));
  for (const w of state.went.toReversed()) {
    const i = place(w.step), d = done[i];
    if (!d || !gone.has(w.id)) continue;
    // What a step of one's own was put before waits for it again.
    const waits = steps[i].own && done.slice(i + 1).find((x) => x.status === "running" && x.began < d.began);
    if (waits) Object.assign(waits, { held: true, paused: d.began, paused_s: waits.paused_s - (d.over - d.began) / S });
    Object.assign(d, { status: "to_do", over: 0 });
  }
  let at = 0;
  const start = (t) => { // the step that is on runs, none after it
    while (at < steps.length && closed(done[at])) at++;
    const d = done[at];
    if (!d) return;
    if (d.status === "to_do") Object.assign(d, { status: "running", began: d.began || t });
    else if (d.held) resume(d, t);
    d.held = false;
  };
  const before = at < steps.length ? Math.max(state.began, ...done.filter(closed).map((d) => d.over ?? 0)) : state.now;
  start(before);
  for (const d of done.slice(at + 1)) if (!closed(d) && !d.held) Object.assign(d, AFRESH);
  const close = (e, i, t) => {
    const d = done[i];
    if (i < 0 || d.status === "done" || d.status === "skipped") return;
    d.began ||= t;
    resume(d, t);
    Object.assign(d, { status: e.what, over: t });
    went = [...went, { id: e.id, step: e.step }];
    const then = e.what === "done" && steps[i].then;
    if (then) own = [...own, { id: e.id, name: then.name, began: t, length_s: MIN * then.min }];
    start(t);
  };
  const putIn = (e, t) => {
    const i = e.step ? place(e.step) : steps.length;
    if (i < 0 || place("own." + e.id) >= 0) return;
    steps = steps.toSpliced(i, 0, ownStep(e, steps[Math.min(i, steps.length - 1)]));
    done.splice(i, 0, { status: "to_do" });
    if (i > at) return;
    const on = done[at + 1]; // what was on, one place later
    if (on?.status === "running" && !on.paused) Object.assign(on, { paused: t, held: true });
    at = i;
    start(t);
  };
  const lastStop = (i, t) => {
    steps.forEach((s, j) => {
      const d = done[j];
      if (s.kind !== "pass" || s.piece !== steps[i].piece) return;
      if (j > i && (d.status === "to_do" || d.status === "running")) done[j] = { status: "skipped", over: t, stopped: true };
      else if (j <= i && d.stopped) {
        done[j] = { status: "to_do" };
        at = Math.min(at, j);
      }
    });
    start(t);
  };
  // Of those the core knows more kinds; what they say shows once the server has told of it.
  const BEAR = {
    done: close,
    skipped: close,
    started: (e, i, t) => done[i]?.status === "to_do" && Object.assign(done[i], { status: "running", began: t }),
    paused: (e, i, t) => done[i]?.status === "running" && !done[i].paused && (done[i].paused = t),
    resumed: (e, i, t) => done[i] && resume(done[i], t),
    minutes(e, i) {
      if (own.some((c) => c.id === e.of)) {
        own = own.map((c) => (c.id === e.of ? { ...c, length_s: Math.max(0, c.length_s + MIN * e.min) } : c));
      } else if (i >= 0) done[i].more_min = (done[i].more_min ?? 0) + e.min;
    },
    clock(e, i, t) {
      if (!own.some((c) => c.id === e.id)) own = [...own, { id: e.id, name: e.text, began: t, length_s: MIN * e.min }];
    },
    unclock: (e) => (own = own.filter((c) => c.id !== e.of)),
    put_in: (e, i, t) => putIn(e, t),
    last_stop: (e, i, t) => i >= 0 && steps[i].kind === "pass" && lastStop(i, t),
  };
  for (const e of local) {
    if (gone.has(e.id)) continue;
    const i = e.step ? place(e.step) : -1, t = Date.parse(e.at);
    if (BEAR[e.what]) BEAR[e.what](e, i, t);
    else if (i >= 0) NOTED[e.what]?.(done[i], e, steps[i]);
  }
  const runs = steps.flatMap((s, i) => {
    const d = done[i];
    if (d.status !== "running" || !(s.min > 0)) return [];
    const length = MIN * Math.max(0, s.min + (d.more_min ?? 0));
    return [{ id: s.key, step: s.key, name: s.head, began: d.began, length_s: length, paused: d.paused ?? 0,
      paused_s: d.paused_s ?? 0 }];
  });
  return { steps, done, clocks: [...runs, ...own], last: went.at(-1)?.id ?? "", at: state.ended ? steps.length : at };
}
