// Readings that arrive from a device: read and placed by the browser's own core.
import { ask } from "./own";

export type Line = { device: string; run: string; seq: number; at: string; quantity: string; value: string; unit: string; face?: "left" | "right" | null };
export type Said = { code: string; text: string };
export type Arrived = { lines: Line[]; live: Line[]; said: Said[]; state: Record<string, unknown> };
export type OpenCell = { path: string; quantity: string; unit: string; face: "left" | "right" | null };
export type Placing = { placed: { path: string; value: string; device: string; unit: string }[]; said: Said[]; left_over: number[] };

/** What is in a piece of what a device sent; `state` is what was answered before. */
export const readingsArrive = (text: string, clock_s: number, state: Record<string, unknown> | null): Promise<Arrived> => ask({ verb: "readings-arrive", text, clock_s, state });

/** Where readings go among the open cells of a sheet. */
export const placeReadings = (lines: Line[], cells: OpenCell[], asks: string[]): Promise<Placing> => ask({ verb: "readings-place", lines, cells, asks });
