// The field sheet as a file: the whole document, or its readings as a table.
import { useState } from "react";
import { writeTable } from "../../engine";
import { type Draft, toSend } from "../../documents/draft";
import { Trouble } from "../../ui/parts";

/** Hand the person a file made here. */
export function saveFile(name: string, text: string, type: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = Object.assign(document.createElement("a"), { href: address, download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 1000);
}

export function FileActions({ draft, onDiscard }: { draft: Draft; onDiscard: () => void }) {
  const [trouble, setTrouble] = useState<unknown>(null);
  const name = `${draft.instrument}-${draft.kind}-${draft.startedAt.slice(0, 10)}`;
  const table = async () => {
    try {
      saveFile(`${name}.csv`, await writeTable(draft.kind, toSend(draft.document)), "text/csv");
      setTrouble(null);
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-3">
      <button className="btn site" onClick={() => saveFile(`${name}.json`, JSON.stringify(toSend(draft.document), null, 1), "application/json")}>
        Save as a document file
      </button>
      <button className="btn site" onClick={() => void table()}>
        Save the readings as a table (CSV)
      </button>
      <Trouble error={trouble} />
      <p className="sub">It remains on this device until it is saved as a record or discarded.</p>
      <button className="btn site" onClick={onDiscard}>
        Discard this field sheet
      </button>
    </div>
  );
}
