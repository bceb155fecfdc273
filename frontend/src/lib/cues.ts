// What the hand feels, as a quiet sound and a short vibration: a knock at the tip, a pull, the lure on the bottom, a hook
// that held. Made here from oscillators, no file; only what the frame says its angler feels.
import type { BenchEvent } from "./api/types";
import { prefs } from "./prefs.svelte";

export type Cue = "tap" | "pull" | "bottom" | "held";

interface Note {
  /** Pitch at its beginning and its end [Hz]. */
  from: number;
  to: number;
  /** When it begins and how long it rings [s]. */
  at: number;
  rings: number;
  loud: number;
  shape: OscillatorType;
}

const note = (
  from: number,
  to: number,
  at: number,
  rings: number,
  loud: number,
  shape: OscillatorType = "sine",
): Note => ({
  from,
  to,
  at,
  rings,
  loud,
  shape,
});

const SOUNDS: Record<Cue, readonly Note[]> = {
  tap: [note(1150, 720, 0, 0.05, 0.16, "triangle")],
  pull: [note(190, 150, 0, 0.22, 0.2)],
  bottom: [note(96, 58, 0, 0.16, 0.4)],
  held: [note(330, 330, 0, 0.16, 0.14), note(495, 495, 0.13, 0.3, 0.14)],
};

/** Milliseconds on, off, on ... */
const SHAKES: Record<Cue, number[]> = { tap: [25], pull: [120], bottom: [55], held: [40, 60, 110] };

let audio: AudioContext | null = null;

function sound(cue: Cue) {
  audio ??= new AudioContext();
  // A page may be heard only after it was touched: until then the context waits, and what is late is not played.
  if (audio.state !== "running") {
    void audio.resume();
    return;
  }
  const now = audio.currentTime;
  for (const { from, to, at, rings, loud, shape } of SOUNDS[cue]) {
    const tone = audio.createOscillator();
    const level = audio.createGain();
    tone.type = shape;
    tone.frequency.setValueAtTime(from, now + at);
    tone.frequency.exponentialRampToValueAtTime(to, now + at + rings);
    level.gain.setValueAtTime(loud, now + at);
    level.gain.exponentialRampToValueAtTime(0.0005, now + at + rings);
    tone.connect(level).connect(audio.destination);
    tone.start(now + at);
    tone.stop(now + at + rings);
  }
}

/** Give a cue, as far as it is wanted; none from a page that nobody looks at. */
export function give(cue: Cue) {
  if (document.hidden) return;
  if (prefs.sound) sound(cue);
  if (prefs.vibration && "vibrate" in navigator) navigator.vibrate(SHAKES[cue]);
}

/** What the tip says that is felt, when it begins. */
const FELT: Partial<Record<string, Cue>> = { tap: "tap", load: "pull", felt: "pull", bottom: "bottom" };

/** What is felt through a rod, as it comes. */
interface Felt {
  onFrame(listener: (frame: { rod_tip: string }) => void): () => void;
  onEvent(listener: (event: BenchEvent) => void): () => void;
}

/** Give the cues of a stream for as long as it runs; gives what to call when it ends. */
export function cuesOf(stream: Felt): () => void {
  // Touched once, the page may be heard from then on.
  const wake = () => {
    if (prefs.sound) void (audio ??= new AudioContext()).resume();
  };
  window.addEventListener("pointerdown", wake, { once: true });
  window.addEventListener("keydown", wake, { once: true });
  let before: Cue | undefined;
  let first = true;
  const stops = [
    stream.onFrame((frame) => {
      const now = FELT[frame.rod_tip];
      // A lure that lies on the bottom when the page opens has not just come there.
      if (now && now !== before && !first) give(now);
      before = now;
      first = false;
    }),
    stream.onEvent((event) => {
      if (event.kind === "hooked") give("held");
    }),
  ];
  return () => {
    for (const stop of stops) stop();
    window.removeEventListener("pointerdown", wake);
    window.removeEventListener("keydown", wake);
  };
}
