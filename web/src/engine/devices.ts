// Readings that arrive from a device: read and placed by the browser's own core.
import { ask } from "./own";

export type Line = {
  device: string;
  run: string;
  seq: number;
  at: string;
  quantity: string;
  value: string;
  unit: string;
  face?: "left" | "right" | null;
};
export type Message = { code: string; text: string };
export type Arrived = { lines: Line[]; live: Line[]; messages: Message[]; state: Record<string, unknown> };
export type OpenCell = { path: string; quantity: string; unit: string; face: "left" | "right" | null };
export type Placing = {
  placed: { path: string; value: string; device: string; unit: string }[];
  messages: Message[];
  left_over: number[];
};

export const CORE_STARTS: Message = {
  code: "core-starts",
  text: "The calculation starts again. What the device sends is kept until then.",
};

/** What is in a piece of what a device sent; `state` is what was answered before. */
export const readingsArrive = (
  text: string,
  clock_s: number,
  state: Record<string, unknown> | null,
): Promise<Arrived> => ask({ verb: "readings-arrive", text, clock_s, state });

/** Where readings go among the open cells of a sheet. */
export const placeReadings = (lines: Line[], cells: OpenCell[], quantities: string[]): Promise<Placing> =>
  ask({ verb: "readings-place", lines, cells, quantities });
