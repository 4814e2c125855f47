import { renderHook } from "@testing-library/react";
import { useOnce } from "./useOnce";

it("stays true once it was, whatever follows", () => {
  const { result, rerender } = renderHook(({ now }) => useOnce(now), { initialProps: { now: false } });
  expect(result.current).toBe(false);
  rerender({ now: true });
  expect(result.current).toBe(true);
  rerender({ now: false });
  expect(result.current).toBe(true);
});
