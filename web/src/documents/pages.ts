// A long sheet by its pages (sets): what stands on each, how far each is. Nothing here knows a kind.
import type { CheckDocument } from "./draft";
import { type Placed, isPrefilled, spotsOf } from "./form";
import { textAt } from "./paths";

/** `typed` of `wanted` readings; what the method filled in and what may be left out does not count. */
export type Page = { title: string; groups: Placed[]; typed: number; wanted: number };

/** The pages of a form; one without title where its method has none. */
export function pagesOf(document: CheckDocument, form: Placed[]): Page[] {
  const pages: { title: string; groups: Placed[] }[] = [];
  for (const group of form) {
    const open = pages.at(-1);
    if (!open || (group.page && open.title && open.title !== group.page))
      pages.push({ title: group.page, groups: [group] });
    else {
      open.groups.push(group);
      open.title ||= group.page;
    }
  }
  return pages.map((page) => ({ ...page, ...progressOf(document, page.groups) }));
}

function progressOf(document: CheckDocument, groups: Placed[]): { typed: number; wanted: number } {
  const wanted = spotsOf(document, groups).filter(
    ({ field, path }) => !field.optional && !isPrefilled(document, field, path),
  );
  return { typed: wanted.filter(({ path }) => textAt(document, path).trim() !== "").length, wanted: wanted.length };
}

/** The page a person goes on with: the first that is not full, else the last. */
export function openPage(pages: Page[]): number {
  const open = pages.findIndex((page) => page.typed < page.wanted);
  return open < 0 ? pages.length - 1 : open;
}

/** The page a place in the document stands on, by the group nearest to it; -1 where none has it. */
export function pageOf(pages: Page[], path: string): number {
  const nearest = (page: Page) =>
    Math.max(-1, ...page.groups.filter((group) => isUnder(path, group.path)).map((group) => group.path.length));
  const near = pages.map(nearest);
  const best = Math.max(-1, ...near);
  return best < 0 ? -1 : near.indexOf(best);
}

const isUnder = (path: string, place: string): boolean =>
  path === place || path.startsWith(`${place}[`) || path.startsWith(`${place}.`);
