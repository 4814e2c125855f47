// The order of tags, names in code, moments and figures: texts by their characters, as the server orders them.

/** For `sort`: below, equal or above. */
export const inOrder = <T extends string | number>(one: T, other: T): number =>
  one < other ? -1 : one > other ? 1 : 0;
