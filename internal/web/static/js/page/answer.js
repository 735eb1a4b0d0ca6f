// What comes of asking the server. That nobody answers is one thing; what goes wrong in a script of these pages is another, and never told
// as the first.
export class NoAnswer extends Error {}

// answered waits for an answer, or what is read of one; nobody there is a NoAnswer.
export async function answered(promise) {
  try {
    return await promise;
  } catch (err) {
    if (err.name === "AbortError") throw err;
    throw new NoAnswer("Hollen does not answer.", { cause: err });
  }
}

// fault reports an error of a page's own where it was caught: on the console, and on the page, where whoever tests it looks.
export function fault(err) {
  document.documentElement.dataset.fault = String(err?.stack ?? err);
  console.error("A fault of this page:", err);
}

export const FAULT_WORDS = "This page has met a fault of its own. What you typed is kept; load it again.";
