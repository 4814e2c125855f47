// Views of fleet and ledger, kept by name with the person: what a list shows, brought back by one touch on any device.
import { X } from "lucide-react";
import { useQueryClient } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { NoSignal, type Session, api, data } from "../api/client";
import { useNotify } from "../app/notices";
import { useHere } from "../app/session";
import { Menu } from "./Menu";
import { Dialog, Lacking } from "./parts";

type Props = {
  place: Session["views"][number]["place"];
  address: string;
  whole: string;
  example: string;
  onView: (address: string) => void;
};

/** `address` is what the list shows now; `whole` the name of the view without filters. */
export function KeptViews({ place, address, whole, example, onView }: Props) {
  const { session } = useHere();
  const client = useQueryClient();
  const notify = useNotify();
  const [naming, setNaming] = useState(false);
  const all = session.views;
  const kept = all.filter((each) => each.place === place);
  const store = async (views: typeof all, text: string) => {
    try {
      const answer = await data(api.PUT("/api/session/views", { body: { views } }));
      client.setQueryData(["session"], answer);
      notify({ text, undo: () => store(all, "Undone.") });
    } catch (error) {
      notify({ text: error instanceof NoSignal ? "Keeping a view needs a connection." : "Not kept. Try again." });
    }
  };
  const here = kept.find((each) => each.text === address);
  return (
    <>
      <Menu name={here?.name ?? "Views"} on={here !== undefined}>
        <DropdownMenu.Item className="menu-item" onSelect={() => onView("")}>
          {whole}
        </DropdownMenu.Item>
        {kept.map((each) => (
          <div key={each.name} className="flex items-center">
            <DropdownMenu.Item className="menu-item flex-1" onSelect={() => onView(each.text)}>
              {each.name}
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className="menu-item"
              aria-label={`Remove the view ${each.name}`}
              onSelect={() =>
                void store(
                  all.filter((other) => other !== each),
                  `View ${each.name} removed.`,
                )
              }
            >
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
          example={example}
          onName={(name) => {
            setNaming(false);
            void store(
              [...all.filter((each) => each.place !== place || each.name !== name), { place, name, text: address }],
              `View ${name} kept.`,
            );
          }}
        />
      </Dialog>
    </>
  );
}

function NameIt({ example, onName }: { example: string; onName: (name: string) => void }) {
  const [name, setName] = useState("");
  const [submitted, setSubmitted] = useState(false);
  const submit = (event: React.FormEvent) => {
    event.preventDefault();
    if (name.trim()) onName(name.trim());
    else setSubmitted(true);
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <label className="grid gap-1 font-semibold">
        Name
        <input
          className="field"
          value={name}
          maxLength={40}
          autoFocus
          autoComplete="off"
          placeholder={example}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      {submitted && !name.trim() && <Lacking at="name">Enter a name for it.</Lacking>}
      <button className="btn now site">Keep it</button>
    </form>
  );
}
