// When a restore that was requested has ended.
import { pause } from "../../timers";

const TRIES = 120;
const SIGNED_OUT = [401, 403];

/** Until the server's last restore is the one requested, done or not done. That it answers is no sign: workers of before answer
 * until they have ended. Who may not ask any more was signed out by it. */
export async function untilRestored(identity: string): Promise<void> {
  for (let n = 0; n < TRIES; n += 1) {
    await pause("restored");
    if (await ended(identity).catch(() => false)) return;
  }
}

async function ended(identity: string): Promise<boolean> {
  const answer = await fetch("/api/safe-keeping", { cache: "no-store" });
  if (!answer.ok) return SIGNED_OUT.includes(answer.status);
  const found: { restored: { id: string } | null } = await answer.json();
  return found.restored?.id === identity;
}
