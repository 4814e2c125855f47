// Whether something has been so at any time: what a person has begun to type into is not taken away again.
import { useState } from "react";

export function useOnce(now: boolean): boolean {
  const [was, setWas] = useState(now);
  if (now && !was) setWas(true);
  return was || now;
}
