// By what the firm judges two faces.
import { useQueryClient } from "@tanstack/react-query";
import { NoSignal, api, data } from "../../api/client";
import { useTell } from "../../app/notices";
import { useHere } from "../../app/session";

/** By what the firm judges two faces: the error, or the raw difference; the manager settles it. */
export function Raw() {
  const { session, may } = useHere();
  const client = useQueryClient();
  const tell = useTell();
  const settle = async (raw: boolean) => {
    try {
      await data(api.PUT("/api/house/raw", { body: { judge_raw: raw } }));
      client.setQueryData(["session"], { ...session, judge_raw: raw });
      tell({ text: raw ? "Judged by 2c and 2i from now on." : "Judged by c and i, half of the difference, from now on." });
    } catch (error) {
      tell({ text: error instanceof NoSignal ? "No signal: this is settled at home." : "It was not settled. Try again." });
    }
  };
  return (
    <p className="sub flex flex-wrap items-center gap-x-4" data-raw={session.judge_raw}>
      {session.judge_raw ? "This firm judges the raw differences 2c and 2i." : "Judged are c and i: half of what the two faces differ by."}
      {may("manage-fleet").allowed && (
        <button className="link min-h-[44px]" onClick={() => void settle(!session.judge_raw)}>
          {session.judge_raw ? "Judge half of them" : "Judge the raw differences"}
        </button>
      )}
    </p>
  );
}
