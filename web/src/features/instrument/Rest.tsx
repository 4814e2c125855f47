// What follows the first screen of an instrument: its checks, its records, its case and its passport.
import type { Instrument } from "../../api/client";
import { CaseCard } from "./CaseCard";
import { Checks } from "./Checks";
import { PassportCard } from "./PassportCard";
import { Records } from "./Records";

export default function Rest({ item }: { item: Instrument }) {
  return (
    <div className="grid gap-4">
      <Checks item={item} />
      <div className="grid items-start gap-4 desk:grid-cols-[minmax(0,1fr)_380px]">
        <Records tag={item.tag} />
        <div className="grid min-w-0 gap-4">
          <CaseCard item={item} />
          <PassportCard item={item} />
        </div>
      </div>
    </div>
  );
}
