// How long a lesson has run.
import { clockOf } from "./clock";

export function Timer({ seconds }: { seconds: number }) {
  return (
    <span className="self-center font-mono text-[20px]" role="timer" aria-label="Time">
      {clockOf(seconds)}
    </span>
  );
}
