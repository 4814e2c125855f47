// What was typed, as it is sent: empty inputs left out, empty rows at the end too; the rest to the letter.

export function isEmpty(value: unknown): boolean {
  if (value === undefined || value === null) return true;
  // A row that says only in which repeat it is taken holds nothing yet.
  if (typeof value === "object")
    return Object.entries(value).every(([name, each]) => name === "repeat" || isEmpty(each));
  return !String(value).trim();
}

export function clean(value: unknown): unknown {
  if (Array.isArray(value)) {
    const list = value.map(clean);
    // One opened row stays: it says what is going to be read here, and what is missing is named by it.
    const least = typeof list[0] === "object" ? 1 : 0;
    while (list.length > least && isEmpty(list[list.length - 1])) list.pop();
    return list;
  }
  if (typeof value !== "object" || value === null) return value;
  const stored = Object.entries(value).filter(([, each]) => typeof each === "object" || !isEmpty(each));
  return Object.fromEntries(stored.map(([name, each]) => [name, clean(each)]));
}
