// After a lesson: the same situation, another one, or back to the list.
import { Link } from "react-router";
import { anySeed } from "./useSeed";

export function AgainActions({
  seed,
  another,
  onAgain,
}: {
  seed: number;
  another: string;
  onAgain: (seed: number) => void;
}) {
  return (
    <>
      <button className="btn" onClick={() => onAgain(seed)}>
        The same again
      </button>
      <button className="btn now" onClick={() => onAgain(anySeed())}>
        {another}
      </button>
      <Link className="btn" to="/practice">
        To Practice
      </Link>
    </>
  );
}
