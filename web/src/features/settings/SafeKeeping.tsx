// How safe everything is: backups and their age, everything out in open formats and in again, whether the records are whole.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { safeKeepingQuery } from "../../api/queries";
import { StepError, steps } from "../../api/steps";
import { useHere } from "../../app/session";
import { FileInput } from "../../ui/FileInput";
import { Head, Trouble, Waiting } from "../../ui/parts";
import { SettingsTabs } from "../../ui/Tabs";
import { useSaving } from "../../ui/useSaving";
import { moment } from "../../ui/words";
import { ChainEnds } from "./ChainEnds";
import { KeptFiles } from "./KeptFiles";
import { Bar } from "./Bar";
import { Verify } from "./Verify";
import { useTrouble } from "../../ui/refusal";

type Keeping = Schemas["SafeKeeping"];
type Progress = { done: number; of: number } | { records: number; instruments: number; name?: string };

export function SafeKeeping() {
  const { may } = useHere();
  const right = may("manage-fleet");
  return (
    <div className="grid gap-4">
      <SettingsTabs />
      {right.allowed ? <Loaded /> : <Head title="Safe keeping" sub={right.text} />}
    </div>
  );
}

function Loaded() {
  const query = useQuery(safeKeepingQuery);
  const found = query.data;
  return (
    <>
      <Head title={found ? `Last backup: ${found.age.toLowerCase()}` : "Safe keeping"} sub={found && subOf(found)} />
      {query.isPending && <Waiting what="Looking at the backups…" />}
      <Trouble error={query.error} />
      {found?.warnings.map((text) => (
        <p key={text} className="caution" data-warning>
          {text}
        </p>
      ))}
      {found?.restored && (
        <p className={found.restored.ok ? "card p-4" : "fault"} data-restored={found.restored.ok}>
          {found.restored.ok ? "The last restore was done. " : "The last restore was not done. "}
          {found.restored.text}
        </p>
      )}
      {found && (
        <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
          <div className="grid gap-4">
            <Backups found={found} />
            <OpenFormats found={found} />
          </div>
          <div className="grid gap-4">
            <Verify />
            <ChainEnds />
          </div>
        </div>
      )}
    </>
  );
}

const GB = 1e9;
const subOf = (found: Keeping) =>
  `${found.daily ? "One is written automatically every day." : "The daily backup is switched off on this server."} ${Math.round(found.free_bytes / GB)} of ${Math.round(found.total_bytes / GB)} GB of the disk are free.`;

function Backups({ found }: { found: Keeping }) {
  const client = useQueryClient();
  const { session } = useHere();
  const { busy, trouble, run } = useSaving(() => fetchAgain(client, { queryKey: safeKeepingQuery.queryKey }));
  const add = (file: File) => run(() => steps("PUT", "/api/backups", file, () => undefined), "Backup added.");
  return (
    <section className="card grid gap-3 p-5" aria-label="Backups">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2>Backups</h2>
        <button
          className="btn now"
          disabled={busy}
          onClick={() => void run(() => data(api.POST("/api/backups")), "Backup written and read again.")}
        >
          {busy ? "Writing…" : "Back up now"}
        </button>
      </div>
      <p className="sub">
        Database, key and files in one file. Copy it to another place now and then: this machine can be lost with
        everything on it.
      </p>
      <Trouble error={trouble} />
      <KeptFiles
        files={found.files.filter((file) => file.what === "backup")}
        empty="No backup yet."
        written={(at) => moment(at, session.time_zone)}
        restores
      />
      <label className="sub grid gap-1">
        A backup from elsewhere
        <FileInput accept=".zip" onFile={(file) => void add(file)} />
      </label>
    </section>
  );
}

function useSteps() {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const [trouble, setTrouble] = useTrouble();
  const go = async (method: string, path: string, body: Blob | null) => {
    setTrouble(null);
    setProgress({ done: 0, of: 0 });
    try {
      await steps<Progress>(method, path, body, setProgress);
      await fetchAgain(client, {});
    } catch (error) {
      setProgress(null);
      setTrouble(error);
    }
  };
  return { progress, trouble, go, busy: progress !== null && "of" in progress };
}

function OpenFormats({ found }: { found: Keeping }) {
  const { session } = useHere();
  const out = useSteps();
  const back = useSteps();
  return (
    <section className="card grid gap-3 p-5" aria-label="Open formats">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2>Open formats</h2>
        <button className="btn" disabled={out.busy} onClick={() => void out.go("POST", "/api/exports", null)}>
          Export everything
        </button>
      </div>
      <p className="sub">
        Every record, instrument, person, rule and file as plain JSON with its schemas. Anybody can read it, compute
        each digest again, or import it into an empty Naveta. Passwords stay here.
      </p>
      <Steps
        progress={out.progress}
        trouble={out.trouble}
        ended={(p) => `${p.records} records of ${p.instruments} instruments written.`}
      />
      <KeptFiles
        files={found.files.filter((file) => file.what === "export")}
        empty=""
        written={(at) => moment(at, session.time_zone)}
      />
      <label className="sub grid gap-1">
        Import everything from such a file, while this Naveta is empty
        <FileInput accept=".zip" onFile={(file) => void back.go("PUT", "/api/imports", file)} />
      </label>
      <Steps
        progress={back.progress}
        trouble={back.trouble}
        ended={(p) =>
          `${p.records} records of ${p.instruments} instruments imported, every digest as it was. Give each person a password under People.`
        }
      />
    </section>
  );
}

function Steps({
  progress,
  trouble,
  ended,
}: {
  progress: Progress | null;
  trouble: unknown;
  ended: (last: { records: number; instruments: number }) => string;
}) {
  if (trouble instanceof StepError)
    return (
      <p className="fault" role="alert">
        {trouble.message}
      </p>
    );
  if (trouble) return <Trouble error={trouble} />;
  if (!progress) return null;
  if (!("of" in progress)) return <p data-ended>{ended(progress)}</p>;
  return <Bar done={progress.done} of={progress.of} what="records" />;
}
