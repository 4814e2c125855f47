// Every lesson, at the tripod and with an instrument, in the order in which people learn.
import { useQuery } from "@tanstack/react-query";
import { type InstrumentLesson, type Lesson, instrumentLessons, practiceLessons } from "../../engine/practice";

export const lessonsQuery = { queryKey: ["practice-lessons"], queryFn: practiceLessons, staleTime: Infinity };
export const instrumentsQuery = { queryKey: ["practice-instruments"], queryFn: instrumentLessons, staleTime: Infinity };

export type Listed = Pick<Lesson, "name" | "title" | "aim" | "minutes"> & { to: string };
export type Lessons = { stands: Lesson[]; instruments: InstrumentLesson[]; all: Listed[] };

/** undefined until both kinds are here. */
export function useLessons(): { lessons: Lessons | undefined; error: unknown } {
  const stands = useQuery(lessonsQuery);
  const instruments = useQuery(instrumentsQuery);
  const error = stands.error ?? instruments.error;
  if (!stands.data || !instruments.data) return { lessons: undefined, error };
  const all = [...stands.data.map((each) => ({ ...each, to: `/practice/${each.name}` })), ...instruments.data.map((each) => ({ ...each, to: `/practice/instruments/${each.name}` }))];
  return { lessons: { stands: stands.data, instruments: instruments.data, all }, error };
}
