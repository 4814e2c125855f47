// Answers that come in lines while something long is done on the server: each as it arrives.
import { sendForStream } from "./client";

/** Read JSON lines one by one; the last one is given back. Raises Problem, NoSignal, and StepError where a line says why not. */
export async function steps<T>(method: string, path: string, body: Blob | null, onLine: (line: T) => void): Promise<T> {
  const reader = (await sendForStream(method, path, body)).getReader();
  const decoder = new TextDecoder();
  let rest = "";
  let last: T | null = null;
  for (;;) {
    const { value, done } = await reader.read();
    const lines = (rest + decoder.decode(value, { stream: !done })).split("\n");
    rest = done ? "" : (lines.pop() ?? "");
    for (const text of lines.filter((line) => line.trim())) {
      const line = JSON.parse(text) as T & { error?: string };
      if (line.error) throw new StepError(line.error);
      last = line;
      onLine(line);
    }
    if (done) break;
  }
  if (last === null) throw new StepError("The server ended before it had answered.");
  return last;
}

/** What was begun could not be ended; the reason in a sentence. */
export class StepError extends Error {}
