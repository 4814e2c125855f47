// What every part of a sheet is given.
import type { Preview } from "../../api/client";
import type { CheckDocument } from "../../documents/draft";
import type { Entry, Placed, Spot } from "../../documents/form";
import type { Keys } from "./useKeys";
import type { Pages } from "./usePages";

export type SheetProps = {
  document: CheckDocument;
  form: Placed[];
  pages: Pages;
  preview: Preview | null;
  keys: Keys;
  at: Spot | null;
  onRemove: (group: Placed, row: number) => void;
  onRemoveEntry: (entry: Entry) => void;
};

export type GroupProps = SheetProps & { group: Placed; compact?: boolean };
