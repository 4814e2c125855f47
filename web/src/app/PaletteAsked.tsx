// The palette's search and its offers: fetched when it is first opened.
import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { fleetQuery, myRecordsQuery, pointsQuery, recordsOfQuery } from "../api/queries";
import { useKinds } from "../hooks/useKinds";
import { glossaryQuery, openGlossary } from "../ui/Terms";
import { ScanButton } from "../ui/Scan";
import { capital } from "../ui/words";
import { type Offer, instrumentIn, offers } from "./palette";
import { SEARCH } from "./paletteStyle";
import { FINDABLE } from "./places";
import { useHere, usePerson } from "./session";

/** What the device knows that can be found; records of the instrument named in the text are asked for. */
function useSources(text: string) {
  const { may } = useHere();
  const { username } = usePerson();
  const fleet = useQuery(fleetQuery).data?.rows ?? [];
  const kinds = useKinds();
  const terms = useQuery(glossaryQuery).data ?? [];
  const points = useQuery(pointsQuery).data?.points ?? [];
  const mine = useQuery(myRecordsQuery(username)).data?.records ?? [];
  const named = instrumentIn(text, fleet)?.row.tag ?? "";
  const theirs = useQuery({ ...recordsOfQuery(named), enabled: named !== "" }).data?.records ?? [];
  const also = new Map(terms.map((term) => [term.check ?? "", [term.term, ...term.also].join(" ")]));
  return {
    places: FINDABLE.filter((place) => !place.manager || may("manage-fleet").allowed),
    fleet,
    kinds: kinds.map((kind) => ({ ...kind, also: also.get(kind.kind) ?? "" })),
    points,
    records: named ? theirs.filter((record) => record.category === "check") : mine,
    terms,
  };
}

export default function Asked({
  text,
  onText: setText,
  onDone,
}: {
  text: string;
  onText: (text: string) => void;
  onDone: () => void;
}) {
  const navigate = useNavigate();
  const sources = useSources(text);
  const found = useMemo(() => offers(text, sources), [text, sources]);
  // What was chosen may leave the list, and offers may arrive after the text: Enter always takes one that stands there.
  const [moved, setMoved] = useState("");
  const chosen = found.some((offer) => offer.key === moved) ? moved : (found[0]?.key ?? "");
  const groups = [...new Set(found.map((offer) => offer.group))];
  const take = (offer: Pick<Offer, "to" | "term">) => {
    onDone();
    if (offer.term) openGlossary(offer.term);
    else if (offer.to) void navigate(offer.to);
  };
  return (
    <Command
      shouldFilter={false}
      vimBindings={false}
      label="Find anything"
      loop
      value={chosen}
      onValueChange={setMoved}
    >
      <div className="flex items-center gap-2 pr-3">
        <Command.Input
          autoFocus
          className={SEARCH}
          value={text}
          onValueChange={setText}
          placeholder="lv7 · lv7 peg · PC-14 · limits · staff"
        />
        <ScanButton compact onTag={(tag) => take({ to: `/instruments/${tag}` })} />
      </div>
      <Command.List className="max-h-[66dvh] overflow-auto p-2">
        <Command.Empty className="px-3 py-4">
          Nothing of that name. Tags can be typed in any form: lv7, LV 07.
        </Command.Empty>
        {groups.map((group) => (
          <Command.Group key={group} heading={group} className="palette-group">
            {found
              .filter((offer) => offer.group === group)
              .map((offer) => (
                <Command.Item
                  key={offer.key}
                  value={offer.key}
                  onSelect={() => take(offer)}
                  className="flex min-h-[44px] cursor-pointer items-center gap-3 rounded px-3 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-card"
                >
                  <b className={`shrink-0 font-semibold ${offer.group === "Instruments" ? "tag" : ""}`}>
                    {capital(offer.name)}
                  </b>
                  <span className="min-w-0 truncate opacity-85">{offer.note}</span>
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}
