// What is due, by weeks and by days: pure sorting for the list and the calendar. Days are ISO texts in the firm's zone.
import type { Schemas } from "../api/client";
import { dayAfter } from "./fleet";

export type Due = Schemas["DueOut"];
export type Job = Schemas["JobOut"];

export const isNow = (due: Pick<Due, "state">): boolean => due.state === "due" || due.state === "overdue";
/** A check; the service is due too, and is none. */
export const isCheck = (due: Pick<Due, "check">): boolean => due.check !== "service";
export const minutesOfDue = (all: Pick<Due, "minutes">[]): number => all.reduce((sum, each) => sum + each.minutes, 0);

export type OfInstrument = { tag: string; due: Due[]; reasons: string[] };

/** The same, an instrument each in the order given; a reason that several checks share is stated once. */
export function byInstrument(all: Due[]): OfInstrument[] {
  const found = new Map<string, OfInstrument>();
  for (const due of all) {
    const one = found.get(due.tag) ?? { tag: due.tag, due: [], reasons: [] };
    one.due.push(due);
    for (const reason of due.reasons) if (!one.reasons.includes(reason.text)) one.reasons.push(reason.text);
    found.set(due.tag, one);
  }
  return [...found.values()];
}

/** The Monday of a day's week. */
export function mondayOf(day: string): string {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
  return dayAfter(day, -((weekday + 6) % 7));
}

/** A week to come: the minutes of its checks, and those of them that are shown. */
export type Week = { monday: string; minutes: number; due: Due[]; jobs: Job[] };

/** Week by week from this one on, with what is shown of it and the jobs that run; weeks with nothing are left out. */
export function weeksOf(
  loads: { monday: string; minutes: number }[],
  due: Due[],
  jobs: Job[],
  today: string,
  until: string,
): Week[] {
  const minutes = new Map(loads.map((load) => [load.monday, load.minutes]));
  const weeks: Week[] = [];
  for (let monday = mondayOf(today); monday <= until; monday = dayAfter(monday, 7)) {
    const sunday = dayAfter(monday, 6);
    weeks.push({
      monday,
      minutes: minutes.get(monday) ?? 0,
      due: due.filter((each) => !isNow(each) && each.due_on >= monday && each.due_on <= sunday),
      jobs: jobs.filter((job) => job.starts_on <= sunday && job.ends_on >= monday),
    });
  }
  return weeks.filter((week) => week.minutes || week.due.length || week.jobs.length);
}

export type DueDay = Schemas["DueDay"];
export type DayCell = { day: string; inMonth: boolean; count: number; due: DueDay["due"]; jobs: Job[] };

/** The weeks of a month (`2027-03`), Monday first, each with its seven days. */
export function monthOf(month: string, days: DueDay[], jobs: Job[]): DayCell[][] {
  const first = `${month}-01`;
  const weeks: DayCell[][] = [];
  for (let monday = mondayOf(first); monday.slice(0, 7) <= month; monday = dayAfter(monday, 7)) {
    weeks.push(
      Array.from({ length: 7 }, (_, i) => {
        const day = dayAfter(monday, i);
        const found = days.find((each) => each.day === day);
        return {
          day,
          inMonth: day.startsWith(month),
          count: found?.count ?? 0,
          due: found?.due ?? [],
          jobs: jobs.filter((job) => job.starts_on <= day && job.ends_on >= day),
        };
      }),
    );
  }
  return weeks;
}

/** The month so many after another: `2027-12` and 1 give `2028-01`. */
export function monthAfter(month: string, months: number): string {
  const date = new Date(`${month}-01T00:00:00Z`);
  date.setUTCMonth(date.getUTCMonth() + months);
  return date.toISOString().slice(0, 7);
}
