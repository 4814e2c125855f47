// Something that is dragged by finger or mouse, or moved by the arrow keys: steps in the drawing's own units.
import { type KeyboardEvent, type PointerEvent, useRef } from "react";

type Step = { x: number; y: number };
type Drag = {
  /** A step since the last one; y downwards, as on the screen. */
  onStep: (step: Step, at: Step) => void;
  onEnd: () => void;
  /** How far an arrow key goes, and how far with Shift. */
  keys: [step: number, fine: number];
};
const ARROWS: Record<string, Step> = {
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
};

/** Where a pointer is in the units of the drawing it is over. */
function inDrawing(event: PointerEvent<SVGElement>): Step {
  const drawing = event.currentTarget.ownerSVGElement;
  const matrix = drawing?.getScreenCTM()?.inverse();
  if (!matrix) return { x: 0, y: 0 };
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  return { x: at.x, y: at.y };
}

export function useDrag({ onStep, onEnd, keys }: Drag) {
  const held = useRef<Map<number, Step>>(new Map());
  return {
    tabIndex: 0,
    style: { touchAction: "none", cursor: "grab" } as const,
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current.set(event.pointerId, inDrawing(event));
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      const from = held.current.get(event.pointerId);
      if (!from) return;
      const at = inDrawing(event);
      held.current.set(event.pointerId, at);
      if (at.x !== from.x || at.y !== from.y) onStep({ x: at.x - from.x, y: at.y - from.y }, at);
    },
    onPointerUp: (event: PointerEvent<SVGElement>) => {
      if (held.current.delete(event.pointerId)) onEnd();
    },
    onPointerCancel: (event: PointerEvent<SVGElement>) => {
      if (held.current.delete(event.pointerId)) onEnd();
    },
    onKeyDown: (event: KeyboardEvent<SVGElement>) => {
      const way = ARROWS[event.key];
      if (!way) return;
      event.preventDefault();
      const size = event.shiftKey ? keys[1] : keys[0];
      onStep({ x: way.x * size, y: way.y * size }, { x: Number.NaN, y: Number.NaN });
      onEnd();
    },
  };
}
