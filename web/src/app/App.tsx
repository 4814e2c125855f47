// The whole page: who is here, what waits to be sent, notices, and the page of the address.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter } from "react-router";
import { Problem } from "../api/client";
import { Waiting } from "../ui/parts";
import { Notices } from "./notices";
import { Onboard } from "./Onboard";
import { OutboxProvider } from "./outbox";
import { Pages } from "./routes";
import { SessionProvider } from "./session";

export const newClient = (): QueryClient =>
  new QueryClient({
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

export function App({ client }: { client: QueryClient }) {
  return (
    // Above what is drawn in slices: it listens from the start, and a step back taken meanwhile is not lost.
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
  );
}
