import { useEffect, useRef } from "react";
import type { Bay } from "../../api/bays";
import { useKept } from "../../parts/useKept";

/** What a bay wants of whoever is in the room; undefined for nothing. */
export function wantOf(bay: Bay): string | undefined {
  const run = bay.run;
  return run?.stage === "hand"
    ? `Bay ${bay.number} waits: ${run.says}`
    : run?.stage === "stopped" && run.says !== "Stopped by hand."
      ? `Bay ${bay.number}: ${run.says}`
      : undefined;
}

/** Bays that have just come to wait for a hand, have stopped by themselves, or are done, since the last look. */
export function newWants(before: readonly Bay[] | undefined, now: readonly Bay[]): Bay[] {
  return before === undefined
    ? []
    : now.filter((bay) => {
        const was = before.find((one) => one.id === bay.id);
        const calls = wantOf(bay) !== undefined || bay.run?.stage === "done";
        return was !== undefined && calls && was.run?.stage !== bay.run?.stage;
      });
}

/** Two short tones, made here so that no file has to be fetched. */
function ring() {
  const audio = new AudioContext();
  [0, 0.22].forEach((at, i) => {
    const tone = audio.createOscillator();
    const loudness = audio.createGain();
    tone.frequency.value = i === 0 ? 660 : 880;
    loudness.gain.setValueAtTime(0.12, audio.currentTime + at);
    loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.2);
    tone.connect(loudness).connect(audio.destination);
    tone.start(audio.currentTime + at);
    tone.stop(audio.currentTime + at + 0.2);
  });
  setTimeout(() => void audio.close(), 1000);
}

export const useSound = () => useKept("bench-sound", false, (kept): kept is boolean => typeof kept === "boolean");

/** Rings, where sound is wanted, when a bay comes to wait for a hand. */
export function useRinging(bays: readonly Bay[] | undefined) {
  const before = useRef<readonly Bay[]>(undefined);
  const [sound] = useSound();
  useEffect(() => {
    if (bays) {
      if (sound && newWants(before.current, bays).length > 0) {
        ring();
      }
      before.current = bays;
    }
  }, [bays, sound]);
}
