// What was typed, as it is sent: empty wells left out, empty rows at the end too; the rest to the letter.

export function isEmpty(value: unknown): boolean {
  if (value === undefined || value === null) return true;
  // A row that says only in which round it is taken holds nothing yet.
  if (typeof value === "object") return Object.entries(value).every(([name, one]) => name === "round" || isEmpty(one));
  return !String(value).trim();
}

export function clean(value: unknown): unknown {
  if (Array.isArray(value)) {
    const list = value.map(clean);
    while (list.length && isEmpty(list[list.length - 1])) list.pop();
    return list;
  }
  if (typeof value !== "object" || value === null) return value;
  const kept = Object.entries(value).filter(([, one]) => typeof one === "object" || !isEmpty(one));
  return Object.fromEntries(kept.map(([name, one]) => [name, clean(one)]));
}
