// A table of control points on its way in: what it would add and move, before anything is stored.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { fetchAgain } from "../../api/again";
import { type Schemas, api, data } from "../../api/client";
import { fixed } from "../../api/writing";
import { useNotify } from "../../app/notices";
import { usePerson } from "../../app/session";
import type { Length } from "../../documents/draft";
import { toBeMapped } from "../../documents/heldTable";
import { textOf } from "../../engine";
import { FileInput, TABLES } from "../../ui/FileInput";
import { Choice } from "../../ui/Choice";
import { Trouble } from "../../ui/parts";
import { UNITS, firmUnit } from "../../ui/units";
import { useTrouble } from "../../ui/refusal";

const send = (text: string, unit: Length, store: boolean) =>
  data(api.POST("/api/points/table", { body: { text, unit, store } }));

/** `mapped`: a table in our own columns, from the page that asks which column is what. */
export function BringIn({ mapped, onDone }: { mapped: string | null; onDone: () => void }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const notify = useNotify();
  const { username } = usePerson();
  const [unit, setUnit] = useState<Length>(firmUnit);
  const [text, setText] = useState(mapped ?? "");
  const [trouble, setTrouble] = useTrouble();
  const look = useQuery({
    queryKey: ["points-look", text, unit],
    queryFn: () => send(text, unit, false),
    enabled: text !== "",
    retry: false,
    gcTime: 0,
  });
  const load = async (file: File) => {
    setTrouble(null);
    try {
      if (
        await toBeMapped(
          { owner: username, kind: "control-points", title: "control points", tag: "", station: null },
          file,
        )
      )
        return navigate("/points/table");
      setText(await textOf(file));
    } catch (error) {
      setTrouble(error);
    }
  };
  const store = async () => {
    try {
      const answer = await send(text, unit, true);
      await fetchAgain(client, { queryKey: ["points"] });
      notify({ text: `${answer.new.length} new, ${answer.moved.length} moved.` });
      onDone();
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-4">
      <p className="sub">
        A table of whatever program: you say which column is what, and Naveta remembers it. A table with the headings
        name, e, n, h, description, unit is read at once.
      </p>
      {mapped === null && (
        <Choice label="Numbers without unit are in" value={unit} options={UNITS} onChange={setUnit} />
      )}
      <FileInput accept={TABLES} label="The table" onFile={(file) => void load(file)} />
      <Trouble error={trouble ?? look.error} />
      {look.data && !trouble && <Looked looked={look.data} onStore={() => void store()} />}
    </div>
  );
}

function Looked({ looked, onStore }: { looked: Schemas["Imported"]; onStore: () => void }) {
  return (
    <div className="grid gap-2" data-looked>
      <p className="font-semibold">
        {looked.new.length} new, {looked.same.length} unchanged, {looked.moved.length} that would move.
      </p>
      {looked.moved.length > 0 && (
        <ul className="m-0 list-none p-0">
          {looked.moved.map((each) => (
            <li key={each.name}>
              <span className="tag">{each.name}</span> would move by {fixed(each.by_mm, 1)} mm
              {each.rise_mm ? `, ${fixed(Math.abs(each.rise_mm), 1)} mm ${each.rise_mm > 0 ? "up" : "down"}` : ""}
            </li>
          ))}
        </ul>
      )}
      {looked.caution && <p className="caution">{looked.caution}</p>}
      <button className="btn now site" onClick={onStore}>
        Save these points
      </button>
    </div>
  );
}
