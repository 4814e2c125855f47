// Backups or exports that lie ready: download, put in place, remove. Both of the last are asked about first.
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { safeKeepingQuery } from "../../api/queries";
import { Dialog, Trouble } from "../../ui/parts";
import { useSaving } from "../../ui/useSaving";
import { untilRestored } from "./restored";

type File = Schemas["KeptFileOut"];
const SHOWN = 6;

export function KeptFiles({
  files,
  empty,
  written,
  restores = false,
}: {
  files: File[];
  empty: string;
  written: (at: string) => string;
  restores?: boolean;
}) {
  const [all, setAll] = useState(false);
  const [pending, setPending] = useState<{ file: File; action: "restore" | "remove" } | null>(null);
  if (!files.length) return empty ? <p>{empty}</p> : null;
  return (
    <>
      <ul className="m-0 list-none divide-y divide-line border-y border-line p-0">
        {(all ? files : files.slice(0, SHOWN)).map((file) => (
          <li
            key={file.name}
            className="grid items-center gap-x-4 py-1 tab:grid-cols-[minmax(0,1fr)_80px_auto]"
            data-file={file.name}
          >
            <span className="min-w-0">
              <a className="font-semibold" href={`/api/kept-files/${file.name}`} download>
                {written(file.at)}
              </a>
              <span className="sub block truncate">{file.daily ? "Daily" : file.name}</span>
            </span>
            <span className="sub tab:text-right">{(file.bytes / 1e6).toFixed(1)} MB</span>
            <span className="flex gap-2">
              {restores && (
                <button className="btn !min-h-[44px]" onClick={() => setPending({ file, action: "restore" })}>
                  Restore
                </button>
              )}
              <button className="btn !min-h-[44px]" onClick={() => setPending({ file, action: "remove" })}>
                Remove
              </button>
            </span>
          </li>
        ))}
      </ul>
      {!all && files.length > SHOWN && (
        <button className="btn justify-self-start" onClick={() => setAll(true)}>
          Show all {files.length}
        </button>
      )}
      {pending && <Ask {...pending} when={written(pending.file.at)} onClose={() => setPending(null)} />}
    </>
  );
}

function Ask({
  file,
  action,
  when,
  onClose,
}: {
  file: File;
  action: "restore" | "remove";
  when: string;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const { busy, trouble, run } = useSaving(() => fetchAgain(client, { queryKey: safeKeepingQuery.queryKey }));
  const path = { params: { path: { name: file.name } } };
  const remove = async () => {
    if (await run(() => data(api.DELETE("/api/kept-files/{name}", path)), "Removed.")) onClose();
  };
  const restore = () =>
    run(async () => {
      const requested = await data(api.POST("/api/kept-files/{name}/restore", path));
      await untilRestored(requested.id);
      location.reload();
    });
  const what = file.what === "backup" ? "backup" : "export";
  return (
    <Dialog title={action === "remove" ? `Remove this ${what}?` : "Restore this backup?"} open onClose={onClose}>
      <div className="grid gap-4">
        <p>
          {action === "remove"
            ? `The ${what} of ${when} is removed from this server. Copies elsewhere stay.`
            : `Everything goes back to ${when}. What was saved after it is set aside on the server, not lost, but nobody sees it any more. Everybody may have to sign in again.`}
        </p>
        <Trouble error={trouble} />
        <button
          className="btn now site"
          disabled={busy}
          onClick={() => void (action === "remove" ? remove() : restore())}
        >
          {action === "remove" ? "Remove" : busy ? "Restoring…" : "Restore"}
        </button>
      </div>
    </Dialog>
  );
}
