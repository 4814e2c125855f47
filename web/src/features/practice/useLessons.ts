// Every lesson, at the tripod and with an instrument, in the order in which people learn.
import { useQuery } from "@tanstack/react-query";
import {
  type FaultLesson,
  type InstrumentLesson,
  type Lesson,
  type MorningLesson,
  faultLessons,
  instrumentLessons,
  morningLessons,
  practiceLessons,
} from "../../engine/practice";

export const lessonsQuery = { queryKey: ["practice-lessons"], queryFn: practiceLessons, staleTime: Infinity };
export const instrumentsQuery = { queryKey: ["practice-instruments"], queryFn: instrumentLessons, staleTime: Infinity };
export const faultsQuery = { queryKey: ["practice-faults"], queryFn: faultLessons, staleTime: Infinity };
export const morningsQuery = { queryKey: ["practice-mornings"], queryFn: morningLessons, staleTime: Infinity };

export type Listed = Pick<Lesson, "name" | "title" | "aim" | "minutes"> & { to: string; methods?: string[] };
export type Lessons = {
  stands: Lesson[];
  instruments: InstrumentLesson[];
  faults: FaultLesson[];
  mornings: MorningLesson[];
  all: Listed[];
};

/** undefined until all kinds are here. */
export function useLessons(): { lessons: Lessons | undefined; error: unknown } {
  const stands = useQuery(lessonsQuery);
  const instruments = useQuery(instrumentsQuery);
  const faults = useQuery(faultsQuery);
  const mornings = useQuery(morningsQuery);
  const error = stands.error ?? instruments.error ?? faults.error ?? mornings.error;
  if (!stands.data || !instruments.data || !faults.data || !mornings.data) return { lessons: undefined, error };
  const listed = (place: string, some: Omit<Listed, "to">[]): Listed[] =>
    some.map((each) => ({ ...each, to: `${place}/${each.name}` }));
  const all = [
    ...listed("/practice", stands.data),
    ...listed("/practice/instruments", instruments.data),
    ...listed("/practice/faults", faults.data),
    ...listed("/practice/mornings", mornings.data),
  ];
  return {
    lessons: { stands: stands.data, instruments: instruments.data, faults: faults.data, mornings: mornings.data, all },
    error,
  };
}
