// What tells of a clock's end: a sound made here, the page's title, a shake, a notification where that is allowed; and
// what keeps the screen awake. Each is tried, none is relied on.
let audio = null;

// unlock lets the page sound: a browser wants a tap before.
export function unlock() {
  if (navigator.userActivation && !navigator.userActivation.hasBeenActive) return;
  try {
    audio ??= new AudioContext();
    audio.resume?.();
  } catch {
    audio = null;
  }
}

function sound() {
  try {
    if (!audio) return;
    for (const [i, hz] of [660, 880, 660].entries()) {
      const at = audio.currentTime + i * 0.28;
      const tone = audio.createOscillator(), loud = audio.createGain();
      tone.frequency.value = hz;
      loud.gain.setValueAtTime(0.0001, at);
      loud.gain.exponentialRampToValueAtTime(0.5, at + 0.02);
      loud.gain.exponentialRampToValueAtTime(0.0001, at + 0.25);
      tone.connect(loud).connect(audio.destination);
      tone.start(at);
      tone.stop(at + 0.26);
    }
  } catch {
    // without a sound
  }
}

export function ring(words) {
  sound();
  try {
    if (navigator.userActivation?.hasBeenActive !== false) navigator.vibrate?.([300, 120, 300, 120, 300]);
  } catch {
    // without a shake
  }
  try {
    if (window.Notification?.permission === "granted" && document.hidden) new Notification(words);
  } catch {
    // without a notification
  }
}

export async function allowNotices() {
  try {
    return await window.Notification?.requestPermission?.();
  } catch {
    return "denied";
  }
}

let lock = null;
// stayAwake keeps the screen on, or lets it go; it reports whether the browser can.
export async function stayAwake(on) {
  if (!navigator.wakeLock) return false;
  try {
    if (on && !lock && document.visibilityState === "visible") {
      lock = await navigator.wakeLock.request("screen");
      lock.addEventListener?.("release", () => (lock = null));
    } else if (!on && lock) {
      await lock.release();
      lock = null;
    }
    return true;
  } catch {
    return false;
  }
}

export function say(words) {
  try {
    speechSynthesis.cancel();
    speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  } catch {
    // silently
  }
}
