// What reaches the passenger beside the screen: it stays on, it sounds and shakes at the end of a gap.
import { useEffect } from "react";
import { createStore } from "../../lib/store";

export const soundStore = createStore<"on" | "off">("on", "thermaxis.run.sound");
export const shakeStore = createStore<"on" | "off">("on", "thermaxis.run.shake");

type Lock = { release: () => Promise<void> };
type Screen = { wakeLock?: { request: (kind: "screen") => Promise<Lock> } };

/** Keep the screen on where the device allows; it is let go when the page is left, and asked again when it is back. */
export function useScreenOn(wanted: boolean) {
  useEffect(() => {
    const screen = (navigator as Screen).wakeLock;
    if (!wanted || !screen) return;
    let lock: Lock | null = null;
    let left = false;
    const ask = async () => {
      if (document.visibilityState !== "visible") return;
      lock = await screen.request("screen").catch(() => null);
      if (left) void lock?.release();
    };
    void ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, [wanted]);
}

let sounds: AudioContext | null = null;

/** A browser sounds only once somebody has touched the page. */
export function allowSound() {
  if (typeof AudioContext === "undefined") return;
  sounds ??= new AudioContext();
  void sounds.resume();
}

/** The gap is over. */
export function signal() {
  if (shakeStore.get() === "on") navigator.vibrate?.([200, 100, 200]);
  if (soundStore.get() === "off" || !sounds) return;
  for (const [at, pitch] of [
    [0, 660],
    [0.25, 880],
  ] as const) {
    const tone = sounds.createOscillator();
    const volume = sounds.createGain();
    tone.frequency.value = pitch;
    volume.gain.value = 0.2;
    tone.connect(volume).connect(sounds.destination);
    tone.start(sounds.currentTime + at);
    tone.stop(sounds.currentTime + at + 0.18);
  }
}
