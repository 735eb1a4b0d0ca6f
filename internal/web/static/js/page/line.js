// A line to the server: changes go over a socket that stays open with the page, or, where there
// is none, each by a request of its own.
import { answered } from "./answer.js";

const PATIENCE_MS = 4000; // then it is asked by request
const TRIES = 3; // where none opens, something between here and there does not let it

export function line(action) {
  let socket = null; // open, or null
  let opening = false;
  let tries = 0; // since one last opened
  let number = 0;
  const waiting = new Map(); // number: what takes the answer

  function open() {
    if (socket || opening || tries === TRIES || !("WebSocket" in window)) return;
    opening = true;
    tries++;
    const address = new URL(action.replace(/work$/, "edits"), location.href);
    address.protocol = address.protocol.replace("http", "ws");
    const s = new WebSocket(address);
    s.onopen = () => ([socket, opening, tries] = [s, false, 0]);
    s.onmessage = (e) => {
      const end = e.data.indexOf("\n");
      const [n, status] = e.data.slice(0, end).split(" ").map(Number);
      waiting.get(n)?.({ ok: status < 400, out: status === 401, text: e.data.slice(end + 1) });
      waiting.delete(n);
    };
    s.onclose = () => {
      [socket, opening] = [null, false];
      for (const answer of waiting.values()) answer(null); // to be asked by request
      waiting.clear();
    };
  }

  function bySocket(body) {
    return new Promise((answer) => {
      const mine = ++number;
      waiting.set(mine, answer);
      socket.send(mine + "\n" + body);
      setTimeout(() => waiting.delete(mine) && answer(null), PATIENCE_MS);
    });
  }

  async function byRequest(body, { signal, whole }) {
    const answer = await answered(fetch(action, { method: "POST", body, signal, headers: whole ? {} : { "X-Hollen-Part": "figures" } }));
    const text = await answered(answer.text());
    open();
    return { ok: answer.ok, out: answer.status === 401, text };
  }

  // A page that goes closes the line: kept for Back, it may not hold one.
  addEventListener("pagehide", () => socket?.close());

  // The form worked out: whole, or the parts that follow the figures.
  return async (body, how) => (!how.whole && socket && (await bySocket(body))) || byRequest(body, how);
}
