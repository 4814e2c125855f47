// For a manager, on every page: the last good backup is old, or the disk is nearly full.
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { safeKeepingQuery } from "../api/queries";
import { useHere } from "./session";

const EVERY_MS = 30 * 60_000;

export function KeepingStrip() {
  const { may, session } = useHere();
  // The demo keeps nothing anybody would miss.
  const enabled = !session.demo && may("manage-fleet").allowed;
  const warnings = useQuery({ ...safeKeepingQuery, enabled, refetchInterval: EVERY_MS }).data?.warnings ?? [];
  if (!enabled || !warnings.length) return null;
  return (
    <div
      role="status"
      data-keeping
      className="no-print flex flex-wrap items-center gap-x-5 border-b border-line bg-card px-4 py-1 font-semibold tab:px-9"
    >
      <span className="text-coral">{warnings.join(" ")}</span>
      <Link className="link" to="/settings/safe-keeping">
        Safe keeping
      </Link>
    </div>
  );
}
