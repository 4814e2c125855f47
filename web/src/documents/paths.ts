// Places in a document, as the core names them: `observations.setups[0].a.readings[1]`.

export type Row = Record<string, unknown>;
const STEP = /[^.[\]]+/g;
const stepsOf = (path: string): (string | number)[] =>
  (path.match(STEP) ?? []).map((each) => (/^\d+$/.test(each) ? Number(each) : each));

/** The id of the input that fills a place. */
export const spotId = (path: string): string => `row-${path.replace(/[^\w]+/g, "-").replace(/-$/, "")}`;

export function valueAt(document: unknown, path: string): unknown {
  return stepsOf(path).reduce<unknown>((held, step) => (held as Row | undefined | null)?.[step as string], document);
}

export const textAt = (document: unknown, path: string): string => String(valueAt(document, path) ?? "");

export const listAt = (document: unknown, path: string): unknown[] => {
  const found = valueAt(document, path);
  return Array.isArray(found) ? found : [];
};

/** The document with another value at a path; what lies on the way comes into being. */
export function withAt<D>(document: D, path: string, value: unknown): D {
  const put = (held: unknown, steps: (string | number)[]): unknown => {
    const [step, ...rest] = steps;
    if (step === undefined) return value;
    if (typeof step === "number") {
      const list = [...((held as unknown[] | undefined) ?? [])];
      while (list.length < step) list.push(rest.length ? {} : "");
      list[step] = put(list[step], rest);
      return list;
    }
    return { ...((held as Row | undefined) ?? {}), [step]: put((held as Row | undefined)?.[step], rest) };
  };
  return put(document, stepsOf(path)) as D;
}

/** The document with nothing at a path. */
export function withoutAt<D>(document: D, path: string): D {
  const cut = path.lastIndexOf(".");
  const held = valueAt(document, path.slice(0, cut));
  if (typeof held !== "object" || held === null) return document;
  const name = path.slice(cut + 1);
  return withAt(
    document,
    path.slice(0, cut),
    Object.fromEntries(Object.entries(held).filter(([each]) => each !== name)),
  );
}
