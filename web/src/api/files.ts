// Files that are sent as they are: the picture of a case, a certificate. They need a connection; what failed can be sent again.
import { type Schemas, send } from "./client";

export type Kept = Schemas["AttachmentOut"];

/** Keep a file with an instrument; raises Problem with the server's own sentence, NoSignal. */
export async function sendFile(
  what: "photograph" | "certificates",
  tag: string,
  file: Blob & { name?: string },
): Promise<Kept> {
  const named =
    what === "certificates" ? `?name=${encodeURIComponent((file.name ?? "certificate").slice(0, 120))}` : "";
  return (await send("PUT", `/api/instruments/${tag}/${what}${named}`, file)) as Kept;
}
