// Two people changed the same thing: the second sees what the first changed, and loses nothing.
import { Problem } from "../api/client";
import { capital } from "./words";

export const changedMeanwhile = (trouble: unknown): Problem | null =>
  trouble instanceof Problem && trouble.code === "changed-meanwhile" ? trouble : null;

/** `onTheirs`: what they saved takes the place of what stands here. Saving again keeps one's own. */
export function Meanwhile({ problem, onTheirs }: { problem: Problem; onTheirs: () => void }) {
  return (
    <div className="grid gap-3 border-l-[5px] border-coral pl-4" role="alert" data-meanwhile>
      <p className="font-semibold">{problem.title}</p>
      <ul className="m-0 grid list-none gap-1 p-0">
        {problem.faults.map((fault) => (
          <li key={fault.path}>
            {capital(fault.where)} is now <b>{fault.given}</b>.
          </li>
        ))}
      </ul>
      <p>Save again to keep what stands here.</p>
      <button type="button" className="btn justify-self-start" onClick={onTheirs}>
        Take theirs
      </button>
    </div>
  );
}
