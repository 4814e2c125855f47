// matchMedia for a given width; narrow pages count as touch screens. There is no layout here: tests/browser checks sizes and
// what is in view.
const TOUCHED_BELOW = 1000;
let wide = 1280;
const listeners = new Set<() => void>();

function fits(query: string): boolean {
  return query.split(" and ").every((part) => {
    const most = part.match(/max-width: (\d+)px/)?.[1];
    const least = part.match(/min-width: (\d+)px/)?.[1];
    if (most) return wide <= Number(most);
    if (least) return wide >= Number(least);
    if (part.includes("pointer: coarse")) return wide < TOUCHED_BELOW;
    if (part.includes("pointer: fine")) return wide >= TOUCHED_BELOW;
    return false;
  });
}

export const matchMedia = (query: string): MediaQueryList =>
  ({
    media: query,
    get matches() {
      return fits(query);
    },
    addEventListener: (_: string, listener: () => void) => void listeners.add(listener),
    removeEventListener: (_: string, listener: () => void) => void listeners.delete(listener),
  }) as unknown as MediaQueryList;

export function setScreen(width: number): void {
  wide = width;
  for (const listener of listeners) listener();
}
