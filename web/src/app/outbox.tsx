// Watches the signal and the outbox for the whole page, and sends what waits.
import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, createContext, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { fetchAgain } from "../api/again";
import { storeSince } from "../engine/instrumentContext";
import { type OutboxItem, onStoreChange, items } from "../device/device";
import { type Sent, flush } from "../device/outbox";
import { afterPaint } from "../hooks/afterPaint";
import { useHere } from "./session";
import { every } from "../timers";

type Outbox = { online: boolean; waiting: number; refused: number; items: OutboxItem[]; sendNow: () => Promise<Sent> };
const OutboxContext = createContext<Outbox | null>(null);

export function useOutbox(): Outbox {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error("useOutbox needs a <OutboxProvider> around it");
  return outbox;
}

export function OutboxProvider({ children }: { children: ReactNode }) {
  const { person } = useHere();
  const client = useQueryClient();
  const owner = person?.username ?? null;
  const [online, setOnline] = useState(navigator.onLine);
  const [mine, setMine] = useState<OutboxItem[]>([]);
  const sendNow = useCallback(async (): Promise<Sent> => {
    if (!owner) return { sent: 0, waiting: 0, signedOut: true, last: null };
    const outcome = await flush(owner);
    if (outcome.sent) await fetchAgain(client);
    return outcome;
  }, [owner, client]);

  useEffect(() => {
    let here = true;
    const look = async () => {
      const found = owner ? await items(owner) : [];
      if (!here) return;
      storeSince(found);
      setMine(found);
    };
    const off = afterPaint(() => void look());
    const forget = onStoreChange(() => void look());
    return () => {
      here = false;
      off();
      forget();
    };
  }, [owner]);
  useEffect(() => {
    const back = () => {
      setOnline(true);
      void sendNow();
    };
    const gone = () => setOnline(false);
    window.addEventListener("online", back);
    window.addEventListener("offline", gone);
    const off = afterPaint(() => void sendNow());
    const noMore = every("outboxAgain", () => void sendNow());
    return () => {
      window.removeEventListener("online", back);
      window.removeEventListener("offline", gone);
      off();
      noMore();
    };
  }, [sendNow]);

  const value = useMemo<Outbox>(
    () => ({
      online,
      waiting: mine.filter((p) => p.state === "waiting").length,
      refused: mine.filter((p) => p.state === "refused").length,
      items: mine,
      sendNow,
    }),
    [online, mine, sendNow],
  );
  return <OutboxContext.Provider value={value}>{children}</OutboxContext.Provider>;
}
