// How this device is used: in bright light (no half tones), and with which hand. Kept on it.
import { useState } from "react";

const apply = (bright: boolean) => void (document.documentElement.dataset.light = bright ? "bright" : "normal");
const stored = (): boolean => localStorage.getItem("light") === "bright";

/** As it was left on this device. */
export const applyStoredLight = (): void => apply(stored());

const applyHand = (hand: string) => void (document.documentElement.dataset.hand = hand);
const storedHand = (): string => localStorage.getItem("hand") ?? "right";
export const applyStoredHand = (): void => applyHand(storedHand());

/** On which side the controls stand: that of the working hand. */
export function useWorkingHand(): [string, (hand: string) => void] {
  const [hand, setHand] = useState(storedHand);
  const set = (next: string) => {
    localStorage.setItem("hand", next);
    applyHand(next);
    setHand(next);
  };
  return [hand, set];
}

export function useBrightLight(): [boolean, (bright: boolean) => void] {
  const [bright, setBright] = useState(stored);
  const set = (next: boolean) => {
    localStorage.setItem("light", next ? "bright" : "normal");
    apply(next);
    setBright(next);
  };
  return [bright, set];
}
