import { expect, test } from "vitest";
import { tagIn } from "./scan";

test.each([
  ["https://naveta.example.org/instruments/LV-07", "LV-07"],
  ["http://127.0.0.1:8000/instruments/ts-03/", "TS-03"],
  ["https://x.example/instruments/LV%2D07?from=label", "LV-07"],
  [" lv 7 ", "LV 7"],
  ["https://x.example/records/LV-07", null],
  ["https://x.example/instruments/", null],
  ["4006381333931", null],
  ["", null],
])("%s names %s", (code, tag) => expect(tagIn(code)).toBe(tag));
