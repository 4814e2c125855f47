// By what the firm judges a two-face check.
import { useQueryClient } from "@tanstack/react-query";
import { NoSignal, send } from "../../api/client";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";

/** By what the firm judges a two-face check: the error, or the raw difference; the manager sets it. */
export function Raw() {
  const { session, may } = useHere();
  const client = useQueryClient();
  const notify = useNotify();
  const flush = async (raw: boolean) => {
    try {
      await send("PUT", "/api/organisation", { judge_raw: raw });
      client.setQueryData(["session"], { ...session, judge_raw: raw });
      notify({
        text: raw
          ? "From now on the raw differences 2c and 2i are judged."
          : "From now on c and i are judged, half of the differences.",
      });
    } catch (error) {
      notify({ text: error instanceof NoSignal ? "This needs a connection." : "Not saved. Try again." });
    }
  };
  return (
    <p className="sub flex flex-wrap items-center gap-x-4" data-raw={session.judge_raw}>
      {session.judge_raw
        ? "Your firm judges the raw differences 2c and 2i."
        : "Your firm judges c and i: half of the face difference."}
      {may("manage-fleet").allowed && (
        <button className="link min-h-[44px]" onClick={() => void flush(!session.judge_raw)}>
          {session.judge_raw ? "Judge c and i" : "Judge 2c and 2i"}
        </button>
      )}
    </p>
  );
}
