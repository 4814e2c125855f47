// One input: a big field for one number, and the keys of the bench. What is typed is kept to the letter.
import { type ChangeEvent, type KeyboardEvent } from "react";
import type { Fault } from "../api/client";

export type InputKey = "next" | "back" | "more" | "wires" | "same" | "save" | "sign";
const SIGNS: Record<string, InputKey> = { ";": "more", "*": "wires", "=": "same" };

type Props = {
  id: string;
  label: string;
  value: string;
  faults?: Fault[];
  placeholder?: string | undefined;
  narrow?: boolean;
  /** A name, not a figure. */
  text?: boolean;
  onType: (value: string) => void;
  onKey: (key: InputKey) => void;
  onHere: () => void;
};

export function NumberField({
  id,
  label,
  value,
  faults = [],
  placeholder,
  narrow = false,
  text: named = false,
  onType,
  onKey,
  onHere,
}: Props) {
  const typed = (event: ChangeEvent<HTMLInputElement>) => {
    const text = event.target.value;
    const sign = [...text].find((char) => char in SIGNS);
    if (sign === undefined) return onType(text);
    const rest = text.replaceAll(/[;*=]/g, "");
    if (rest !== value) onType(rest);
    onKey(SIGNS[sign] as InputKey);
  };
  const pressed = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== "Enter" || event.nativeEvent.isComposing) return;
    event.preventDefault();
    onKey(event.ctrlKey || event.metaKey ? "save" : event.shiftKey ? "back" : "next");
  };
  return (
    <input
      id={id}
      className={`number-field ${narrow ? "cell" : ""}`}
      aria-label={label}
      aria-invalid={faults.length > 0}
      aria-describedby={faults.length ? `${id}-fault` : undefined}
      inputMode={named ? "text" : "decimal"}
      enterKeyHint="next"
      autoComplete="off"
      autoCorrect="off"
      spellCheck={false}
      maxLength={40}
      value={value}
      placeholder={placeholder}
      onChange={typed}
      onKeyDown={pressed}
      onFocus={(event) => {
        onHere();
        event.currentTarget.select();
      }}
    />
  );
}
