// A finished lesson goes to the server by the outbox, as everything that is made on this device.
import { useQueryClient } from "@tanstack/react-query";
import { fetchAgain } from "../../api/again";
import { usePerson } from "../../app/session";
import { flush, postRun } from "../../device/outbox";
import type { FaultWork, Gesture, InstrumentWork, MorningWork } from "../../engine/practice";

export type Run = {
  lesson: string;
  title: string;
  seed: number;
  seconds: number;
  advised: boolean;
  gestures?: Gesture[];
  instrument?: InstrumentWork;
  fault?: FaultWork;
  morning?: MorningWork;
};

export function useSaveRun(): (run: Run) => Promise<void> {
  const { username } = usePerson();
  const queries = useQueryClient();
  return async (run) => {
    await postRun(username, run);
    void flush(username).then(() => fetchAgain(queries, { queryKey: ["practice"] }));
  };
}
