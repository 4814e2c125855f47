// A simulated stand in the browser's core: moves go in as they are made, time passes, what is seen comes back each frame.
import { useCallback, useEffect, useRef, useState } from "react";
import { type Gesture, type Move, type Seen, type Situation, practiceStep } from "../../engine/practice";

export type Stand = {
  seen: Seen | null;
  /** What was in the way of the last move. */
  refused: string;
  error: unknown;
  /** Begin a move, or go on with one; `end` writes it down as one gesture. */
  move: (move: Move) => void;
  end: (what: Pick<Gesture, "do" | "part" | "amount">) => void;
  gestures: Gesture[];
  state: () => Record<string, unknown> | null;
  /** Milliseconds from one picture to the next, in the mean of the last ones. */
  frameMs: number;
};

const MAX_STEP_S = 0.25;
const MAX_MOVES = 40;
const FRAMES = 30;

type Live = {
  state: Record<string, unknown> | null;
  queue: Move[];
  ended: Pick<Gesture, "do" | "part" | "amount">[];
  busy: boolean;
  last: number;
  times: number[];
};
const fresh = (): Live => ({ state: null, queue: [], ended: [], busy: false, last: 0, times: [] });

/** What a gesture left behind: axis and tilt as the mechanism has them. */
const gestureOf = (seen: Seen, what: Pick<Gesture, "do" | "part" | "amount">): Gesture => ({
  ...what,
  seconds: seen.seconds,
  axis_mm: seen.axis_mm,
  tilt_arcsec: seen.tilt_arcsec,
  heading_deg: seen.heading_deg,
  pressed: seen.legs.filter((leg) => leg.pressed).length,
});

export function useStand(of: Situation, running: boolean): Stand {
  const live = useRef<Live>(fresh());
  const [seen, setSeen] = useState<Seen | null>(null);
  const [refused, setRefused] = useState("");
  const [error, setError] = useState<unknown>(null);
  const [gestures, setGestures] = useState<Gesture[]>([]);
  const [frameMs, setFrameMs] = useState(0);
  const { lesson, seed } = of;
  useEffect(() => {
    if (!running) return;
    let frame = 0;
    let over = false;
    const at = live.current;
    const step = async (now: number) => {
      if (at.busy) return;
      at.busy = true;
      const moves = at.queue.splice(0, MAX_MOVES);
      const ended = at.queue.length ? [] : at.ended.splice(0);
      const seconds = at.last ? Math.min(MAX_STEP_S, (now - at.last) / 1000) : 0;
      if (at.last) at.times = [...at.times.slice(1 - FRAMES), now - at.last];
      at.last = now;
      try {
        const answer = await practiceStep({ lesson, seed }, at.state, moves, seconds);
        if (over) return;
        at.state = answer.state;
        setSeen(answer.seen);
        if (moves.length) setRefused(answer.refused);
        if (ended.length) setGestures((all) => [...all, ...ended.map((what) => gestureOf(answer.seen, what))]);
        if (at.times.length) setFrameMs(at.times.reduce((sum, each) => sum + each, 0) / at.times.length);
      } catch (wrong) {
        if (!over) setError(wrong);
      } finally {
        at.busy = false;
      }
    };
    const loop = (now: number) => {
      void step(now);
      frame = requestAnimationFrame(loop);
    };
    frame = requestAnimationFrame(loop);
    return () => {
      over = true;
      at.busy = false;
      at.last = 0;
      cancelAnimationFrame(frame);
    };
  }, [lesson, seed, running]);
  const move = useCallback((one: Move) => void live.current.queue.push(one), []);
  const end = useCallback((what: Pick<Gesture, "do" | "part" | "amount">) => void live.current.ended.push(what), []);
  return { seen, refused, error, move, end, gestures, state: () => live.current.state, frameMs };
}
