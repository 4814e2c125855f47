import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Problem } from "./api/client";
import { applyStoredHand, applyStoredLight } from "./app/light";
import { Notices } from "./app/notices";
import { Onboard } from "./app/Onboard";
import { OutboxProvider } from "./app/outbox";
import { Pages, fetchFirst } from "./app/routes";
import { SessionProvider } from "./app/session";
import { registerWorker } from "./app/update";
import { Waiting } from "./ui/parts";
import "./app/theme.css";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      // The service worker answers without signal; a refusal is final, anything else is asked for once more.
      networkMode: "always",
      retry: (count, error) => !(error instanceof Problem) && count < 1,
      staleTime: 10_000,
    },
    mutations: { networkMode: "always" },
  },
});

function NotReached({ again }: { again: () => void }) {
  return (
    <main className="mx-auto grid min-h-dvh max-w-[560px] content-center gap-5 p-6">
      <h1>Offline, and Naveta is not yet stored on this device</h1>
      <p>Open it once while online. After that it opens anywhere and keeps your entries.</p>
      <button className="btn now site" onClick={again}>
        Try again
      </button>
    </main>
  );
}

/** Between two steps a slow device paints and answers. */
const step = (): Promise<void> => new Promise((done) => setTimeout(done));

async function begin(root: HTMLElement): Promise<void> {
  applyStoredLight();
  applyStoredHand();
  fetchFirst();
  await step();
  createRoot(root).render(
    <StrictMode>
      {/* Above what is drawn in slices: it listens from the start, and a step back taken meanwhile is not lost. */}
      <BrowserRouter>
        <QueryClientProvider client={client}>
          <SessionProvider
            waiting={
              <main className="mx-auto max-w-[1320px] p-8">
                <Waiting what="Loading…" />
              </main>
            }
            failed={(again) => <NotReached again={again} />}
          >
            <OutboxProvider>
              <Onboard />
              <Notices>
                <Pages />
              </Notices>
            </OutboxProvider>
          </SessionProvider>
        </QueryClientProvider>
      </BrowserRouter>
    </StrictMode>,
  );
  registerWorker();
}

const root = document.getElementById("root");
if (!root) throw new Error("index.html holds no #root");
void begin(root);
