// A sentence in which terms of the glossary are underlined: a touch opens what a term means.
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { glossary } from "../engine";

export const glossaryQuery = {
  queryKey: ["glossary"],
  queryFn: glossary,
  staleTime: Infinity,
  networkMode: "always" as const,
};
const OPEN = "naveta-term";

/** Opens search and glossary, at a term where one is given. */
export const openGlossary = (term = "") => window.dispatchEvent(new CustomEvent(OPEN, { detail: term }));

export function onGlossary(listener: (term: string) => void): () => void {
  const onOpen = (event: Event) => listener(String((event as CustomEvent).detail ?? ""));
  window.addEventListener(OPEN, onOpen);
  return () => window.removeEventListener(OPEN, onOpen);
}

type Piece = { text: string; term: string | null };

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** Each term of at least two letters once, where it first stands; the longest name wins. */
export function partsOf(text: string, terms: string[]): Piece[] {
  const sought = [...terms].sort((a, b) => b.length - a.length).map(escaped);
  if (!sought.length) return [{ text, term: null }];
  const seen = new Set<string>();
  return text.split(new RegExp(`\\b(${sought.join("|")})(?=s?\\b)`, "gi")).flatMap((piece, index): Piece[] => {
    if (!piece) return [];
    const term = index % 2 ? piece.toLowerCase() : null;
    if (!term || seen.has(term)) return [{ text: piece, term: null }];
    seen.add(term);
    return [{ text: piece, term }];
  });
}

export function Terms({ text }: { text: string }) {
  const terms = useQuery(glossaryQuery).data ?? [];
  return partsOf(
    text,
    terms.map((term) => term.term),
  ).map((part, index) =>
    part.term ? (
      <button
        key={index}
        type="button"
        className="cursor-help underline decoration-dotted underline-offset-4"
        onClick={() => openGlossary(part.term ?? "")}
      >
        {part.text}
      </button>
    ) : (
      <Fragment key={index}>{part.text}</Fragment>
    ),
  );
}
