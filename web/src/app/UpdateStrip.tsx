// Says that a newer Naveta is ready; never takes it in the middle of an entry.
import { useLocation } from "react-router";
import { takeUpdate, useUpdate } from "./update";

/** Where something is being entered: the update waits until it is done. */
const ENTERING = /^\/(bench|stand)\/[0-9a-f-]{36}/;

export function UpdateStrip() {
  const ready = useUpdate();
  const { pathname } = useLocation();
  if (!ready) return null;
  if (ENTERING.test(pathname))
    return (
      <p role="status" className="no-print m-0 border-b border-line bg-card px-4 py-2 tab:px-9">
        A new version is ready. It is installed when this sheet is finished.
      </p>
    );
  return (
    <div
      role="status"
      className="no-print flex flex-wrap items-center gap-4 border-b border-line bg-card px-4 py-1 tab:px-9"
    >
      <span>A new version is ready. Your readings are kept.</span>
      <button className="link" onClick={takeUpdate}>
        Update now
      </button>
    </div>
  );
}
