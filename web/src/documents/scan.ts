// What a label's code says: the address of an instrument's page, or a tag alone.
const TAG = /^[a-z]{1,4}[\s-]?\d{1,4}$/i;

/** The tag a code names, as it was typed into it; null where it names none. */
export function tagIn(code: string): string | null {
  const text = code.trim();
  const address = /\/instruments\/([^/?#]+)\/?(?:[?#].*)?$/.exec(text)?.[1];
  const named = address === undefined ? text : decodeURIComponent(address);
  return TAG.test(named) ? named.toUpperCase() : null;
}
