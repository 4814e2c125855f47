// Views kept by name with the person: what the table shows, brought back by one touch on any device.
import { X } from "lucide-react";
import { useQueryClient } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { NoSignal, api, data } from "../../api/client";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { type View, addressOf, viewOf } from "../../documents/fleet";
import { Dialog } from "../../ui/parts";
import { Menu } from "./FleetFilters";

export function Views({ view, onView }: { view: View; onView: (view: View) => void }) {
  const { session } = useHere();
  const client = useQueryClient();
  const notify = useNotify();
  const [naming, setNaming] = useState(false);
  const kept = session.views;
  const store = async (views: typeof kept, text: string) => {
    try {
      const answer = await data(api.PUT("/api/session/views", { body: { views } }));
      client.setQueryData(["session"], answer);
      notify({ text, undo: () => store(kept, "Undone.") });
    } catch (error) {
      notify({ text: error instanceof NoSignal ? "Keeping a view needs a connection." : "Not kept. Try again." });
    }
  };
  const address = addressOf(view).toString();
  const here = kept.find((each) => each.text === address);
  return (
    <>
      <Menu name={here?.name ?? "Views"} on={here !== undefined}>
        <DropdownMenu.Item className="menu-item" onSelect={() => onView(viewOf(new URLSearchParams()))}>
          Whole fleet
        </DropdownMenu.Item>
        {kept.map((each) => (
          <div key={each.name} className="flex items-center">
            <DropdownMenu.Item className="menu-item flex-1" onSelect={() => onView(viewOf(new URLSearchParams(each.text)))}>
              {each.name}
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" aria-label={`Remove the view ${each.name}`} onSelect={() => void store(kept.filter((other) => other !== each), `View ${each.name} removed.`)}>
              <X size={18} aria-hidden="true" />
            </DropdownMenu.Item>
          </div>
        ))}
        <DropdownMenu.Separator className="my-1 border-t border-line" />
        <DropdownMenu.Item className="menu-item" onSelect={() => setNaming(true)}>
          Keep this view…
        </DropdownMenu.Item>
      </Menu>
      <Dialog title="Keep this view" open={naming} onClose={() => setNaming(false)}>
        <NameIt
          onName={(name) => {
            setNaming(false);
            void store([...kept.filter((each) => each.name !== name), { name, text: address }], `View ${name} kept.`);
          }}
        />
      </Dialog>
    </>
  );
}

function NameIt({ onName }: { onName: (name: string) => void }) {
  const [name, setName] = useState("");
  const [asked, setAsked] = useState(false);
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (name.trim()) onName(name.trim());
    else setAsked(true);
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <label className="grid gap-1 font-[600]">
        Name
        <input className="field" value={name} maxLength={40} autoFocus autoComplete="off" placeholder="Levels due this month" onChange={(event) => setName(event.target.value)} />
      </label>
      {asked && !name.trim() && <p className="fault">Enter a name for it.</p>}
      <button className="btn now site">Keep it</button>
    </form>
  );
}
