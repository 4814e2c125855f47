// Labels of some instruments, as a file to print: which sheet, and from which of its labels on.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { labelSizesQuery } from "../api/queries";
import { Dialog } from "./parts";

export function PrintLabels({ tags, open, onClose }: { tags: string[]; open: boolean; onClose: () => void }) {
  return (
    <Dialog title={tags.length === 1 ? `Label for ${tags[0]}` : `${tags.length} labels`} open={open} onClose={onClose}>
      <Form tags={tags} onClose={onClose} />
    </Dialog>
  );
}

const KEY = "label-size";

function Form({ tags, onClose }: { tags: string[]; onClose: () => void }) {
  const sizes = useQuery(labelSizesQuery).data ?? [];
  const [chosen, setChosen] = useState(() => localStorage.getItem(KEY) ?? "");
  const [first, setFirst] = useState(1);
  const size = sizes.find((each) => each.value === chosen) ?? sizes[0];
  if (!size) return null;
  const query = new URLSearchParams({
    tags: tags.join(","),
    size: size.value,
    first: String(Math.min(first, size.count)),
  });
  return (
    <div className="grid gap-4">
      <label className="grid gap-1 font-semibold">
        Printed on
        <select
          className="field"
          value={size.value}
          onChange={(event) => {
            setChosen(event.target.value);
            localStorage.setItem(KEY, event.target.value);
            setFirst(1);
          }}
        >
          {sizes.map((each) => (
            <option key={each.value} value={each.value}>
              {each.label}
            </option>
          ))}
        </select>
      </label>
      {size.count > 1 && (
        <label className="grid gap-1 font-semibold">
          First free label of the sheet
          <input
            className="field font-mono"
            type="number"
            min={1}
            max={size.count}
            value={first}
            onChange={(event) => setFirst(Math.max(1, Number(event.target.value)))}
          />
          <span className="sub font-normal">
            Counted along the rows from the top left, so that you can use up a sheet.
          </span>
        </label>
      )}
      <p className="sub">The code on it holds the address of the instrument’s page: any phone’s camera opens it.</p>
      <a className="btn now site" href={`/api/labels?${query}`} target="_blank" rel="noreferrer" onClick={onClose}>
        Open the labels
      </a>
    </div>
  );
}
