// One line at the foot of the page that says what was just done, and takes it back.
import { X } from "lucide-react";
import { type ReactNode, createContext, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { after } from "../timers";

type Notice = { text: string; undo?: () => Promise<void> | void };
const NoticeContext = createContext<((notice: Notice) => void) | null>(null);

export function useNotify(): (notice: Notice) => void {
  const notify = useContext(NoticeContext);
  if (!notify) throw new Error("useNotify needs a <Notices> around it");
  return notify;
}

export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const notify = useCallback((notice: Notice) => setNotice(notice), []);
  useEffect(() => {
    if (!notice) return;
    return after("notice", () => setNotice(null));
  }, [notice]);
  const undo = useMemo(
    () => async () => {
      const undo = notice?.undo;
      setNotice(null);
      await undo?.();
    },
    [notice],
  );
  return (
    <NoticeContext.Provider value={notify}>
      {children}
      <div
        role="status"
        aria-live="polite"
        className="no-print pointer-events-none fixed inset-x-0 bottom-20 z-40 grid justify-items-center px-3 tab:bottom-5"
      >
        {notice && (
          <div className="pointer-events-auto flex max-w-[640px] items-center gap-3 rounded-md bg-ink py-1 pl-5 pr-2 text-card">
            <span className="py-2">{notice.text}</span>
            {notice.undo && (
              <button className="min-h-[48px] px-3 font-bold underline underline-offset-4" onClick={() => void undo()}>
                Undo
              </button>
            )}
            <button
              className="grid min-h-[48px] min-w-[48px] place-items-center"
              aria-label="Close this line"
              onClick={() => setNotice(null)}
            >
              <X size={20} aria-hidden="true" />
            </button>
          </div>
        )}
      </div>
    </NoticeContext.Provider>
  );
}
