// Which page of a long sheet is open: where one left off, where one goes, where Enter leads.
import { useState } from "react";
import type { CheckDocument } from "../../documents/draft";
import type { Placed } from "../../documents/form";
import { type Page, openPage, pageOf, pagesOf } from "../../documents/pages";

export type Pages = { all: Page[]; at: number; open: (index: number) => void; reveal: (path: string) => void };

export function usePages(document: CheckDocument, form: Placed[]): Pages {
  const all = pagesOf(document, form);
  const [chosen, open] = useState(() => openPage(all));
  const reveal = (path: string) => {
    const page = pageOf(all, path);
    if (page >= 0) open(page);
  };
  return { all, at: Math.min(chosen, all.length - 1), open, reveal };
}
