// How far this device's clock is from the server's, as last measured when there was signal.
const KEY = "clock-off";
/** Less than this is the way of networks and clocks. */
const REPORTED_S = 300;

/** Note the server's time as it was just given: seconds the server is ahead of this device. */
export function measureClock(server: Date, here: Date = new Date()): void {
  localStorage.setItem(KEY, String(Math.round((server.getTime() - here.getTime()) / 1000)));
}

export function clockOff(): number | null {
  const text = localStorage.getItem(KEY);
  return text === null ? null : Number(text);
}

/** "3 hours behind", or null when the clock is right enough. */
export function clockWords(off: number | null = clockOff()): string | null {
  if (off === null || Math.abs(off) <= REPORTED_S) return null;
  const minutes = Math.round(Math.abs(off) / 60);
  const span = minutes < 120 ? `${minutes} minutes` : `${Math.round(minutes / 60)} hours`;
  return `${span} ${off > 0 ? "behind" : "ahead"}`;
}
