// On every page, once a set-up on soft ground has stood so long: check bubble and mark again.
import { again, done, useDueRechecks } from "./recheck";

export function RecheckStrip() {
  const [due, look] = useDueRechecks();
  return due.map((entry) => (
    <div
      key={entry.id}
      role="status"
      data-recheck={entry.id}
      className="no-print flex flex-wrap items-center gap-x-5 border-b border-line bg-card px-4 py-1 font-semibold tab:px-9"
    >
      <span>
        {entry.title} has stood {entry.minutes} minutes on soft ground: check bubble and mark.
      </span>
      <button
        className="link"
        onClick={() => {
          again(entry);
          look();
        }}
      >
        Good. Again in {entry.minutes} minutes
      </button>
      <button
        className="link"
        onClick={() => {
          done(entry.id);
          look();
        }}
      >
        Taken down
      </button>
    </div>
  ));
}
