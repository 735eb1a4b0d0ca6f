// The line between this screen and its making: taps go up, news come down. A tap is kept in the browser until the
// server has it, also over a reload and a server that is gone, and sent in the order it was made.
import { NoAnswer, answered, fault } from "../page/answer.js";

const AGAIN_MS = 1000; // until a line that broke is tried again
const POLL_MS = 2000; // where no socket opens

export function openLine(id, { state, unsent, scale }) {
  const KEY = "bench-" + id;
  let waiting = JSON.parse(localStorage.getItem(KEY) ?? "[]");
  let offset = 0; // the server's clock less this one, ms
  let best = Infinity; // the round trip it was measured by
  let rev = "";
  let socket = null, tries = 0, polling = false, out = false;

  const now = () => Date.now() + offset;
  function keep() {
    if (waiting.length) localStorage.setItem(KEY, JSON.stringify(waiting));
    else localStorage.removeItem(KEY);
    unsent(waiting.length, socket?.readyState === WebSocket.OPEN || polling, out);
  }

  function hear(text) {
    const s = JSON.parse(text);
    if (s.scale) scale(s.scale);
    if (s.seq === undefined) return;
    if (s.echo) {
      const trip = Date.now() - s.echo;
      if (trip <= best) [best, offset] = [trip, s.now - (s.echo + trip / 2)];
      else best += 5; // a clock drifts: an old measure is believed less and less
    } else if (best === Infinity) offset = s.now - Date.now();
    const gone = new Set([...(s.got ?? []), ...(s.refused ?? []).map((r) => r.id)]);
    if (gone.size) waiting = waiting.filter((e) => !gone.has(e.id));
    if (s.rev) rev = s.rev;
    keep();
    state(s, waiting);
  }

  const message = () => JSON.stringify({ events: waiting, echo: Date.now(), rev });

  function open() {
    if (!("WebSocket" in window)) return poll();
    const address = new URL("/bench/" + id + "/line", location.href);
    address.protocol = address.protocol.replace("http", "ws");
    const s = (socket = new WebSocket(address));
    s.onopen = () => {
      tries = 0;
      out = false;
      s.send(message());
      keep();
    };
    s.onmessage = (e) => hear(e.data);
    s.onclose = (e) => {
      if (socket !== s) return;
      socket = null;
      if (e.code === 1008) tries = 3; // signed out: ask by request, which says so
      keep();
      tries++;
      setTimeout(tries > 3 ? () => poll().then(open) : open, AGAIN_MS);
    };
  }

  // poll asks once by request; where sockets never open, that is how news come.
  async function poll() {
    try {
      const answer = await answered(fetch("/bench/" + id + "/events", { method: "POST", headers: { "Content-Type": "application/json" }, body: message() }));
      polling = answer.ok;
      out = answer.status === 401;
      if (answer.ok) hear(await answered(answer.text()));
    } catch (err) {
      if (!(err instanceof NoAnswer)) fault(err);
      polling = false;
    }
    keep();
    await new Promise((done) => setTimeout(done, POLL_MS - AGAIN_MS));
  }

  function send(event) {
    waiting.push(event);
    keep();
    if (socket?.readyState === WebSocket.OPEN) socket.send(message());
    else if (polling) poll();
  }

  addEventListener("pagehide", () => {
    const s = socket;
    socket = null;
    s?.close();
  });
  addEventListener("pageshow", (e) => e.persisted && open());
  setInterval(() => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify({ echo: Date.now(), rev })), 20000);
  open();
  keep();
  return { send, now, waiting: () => waiting };
}
