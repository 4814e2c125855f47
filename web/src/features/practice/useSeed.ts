// Which situation is met: the number of the address, or one drawn when the page is opened.
import { useState } from "react";
import { useSearchParams } from "react-router";

const SEEDS = 10_000;
export const anySeed = (): number => 1 + Math.floor(Math.random() * (SEEDS - 1));

/** `tries` counts how often it was begun again, so that the same situation begins from nothing too. */
export function useSeed(): { seed: number; tries: number; again: (next: number) => void } {
  const [params, setParams] = useSearchParams();
  const [drawn] = useState(anySeed);
  const [tries, setTries] = useState(0);
  const given = Number(params.get("n"));
  const seed = Number.isInteger(given) && given > 0 && given < SEEDS ? given : drawn;
  const again = (next: number) => {
    setTries(tries + 1);
    setParams({ n: String(next) }, { replace: true });
  };
  return { seed, tries, again };
}
