// The end: what it will be judged as, for which sights, and keeping it. The final check is required.
import { useState } from "react";
import type { Fault } from "../../api/client";
import { useNavigate } from "react-router";
import { remindOf } from "../../app/recheck";
import { useSaving } from "../../app/saving";
import { useNotify } from "../../app/notices";
import { useHere } from "../../app/session";
import { type SetUpDraft, around, asDraft, filled, minutesSince, observing } from "../../documents/setUp";
import { lengthText } from "../../documents/work";
import { storeDraft } from "../../device/device";
import { FindingView } from "../../ui/FindingView";
import { FaultLine } from "../../ui/parts";
import { Named } from "../../ui/Named";
import { type Usual } from "../../ui/Fold";
import type { GuidedPreview } from "./useGuide";

type Props = {
  draft: SetUpDraft;
  guided: GuidedPreview;
  refused: Fault[];
  write: (next: (draft: SetUpDraft) => SetUpDraft) => void;
};

export function SaveSetUp({ draft, guided, refused, write }: Props) {
  const { may } = useHere();
  const keep = useSaving();
  const [busy, setBusy] = useState(false);
  const right = may("save-set-up");
  const { reduced, wanted, faults } = guided.preview;
  const observed = draft.document.observations;
  // What has its input on this page is stated there.
  const elsewhere = faults.filter((fault) =>
    observed.quick ? fault.path.includes("log[") : !fault.path.includes("zero."),
  );
  const looked = observed.final_check_done || observed.method === "no-point";
  const done = async () => {
    setBusy(true);
    const closed = observing(draft, { minutes: observed.minutes ?? minutesSince(draft.startedAt) });
    await keep(asDraft(closed), `Set-up of ${draft.instrument}`);
    const { recheck_minutes: minutes } = guided.guide;
    if (minutes)
      remindOf(draft.id, `${draft.instrument}${observed.mark?.name ? ` over ${observed.mark.name}` : ""}`, minutes);
    setBusy(false);
  };
  return (
    <div className="card grid gap-4 p-5" data-complete={guided.preview.complete}>
      {reduced ? (
        <FindingView result={reduced} />
      ) : (
        <div>
          <p className="font-semibold">{wanted.length ? "Still needed:" : "One value is incomplete."}</p>
          <ul className="m-0 list-none p-0">
            {wanted.map((each) => (
              <li key={each.path}>{each.where}</li>
            ))}
          </ul>
          {elsewhere.map((each) => (
            <FaultLine key={each.path} fault={each} />
          ))}
        </div>
      )}
      {guided.guide.site.over_point && (
        <Sights draft={draft} usual={guided.guide.usual} unit={guided.guide.unit} refused={refused} write={write} />
      )}
      {guided.guide.recheck_minutes && (
        <p className="sub">
          On this ground the feet keep sinking: you are reminded in {guided.guide.recheck_minutes} minutes to check
          bubble and mark again.
        </p>
      )}
      {reduced && !looked && <p className="caution">Make the final check of bubble and mark, then you can save it.</p>}
      <button
        className="btn now site"
        disabled={!reduced || refused.length > 0 || !looked || !right.allowed || busy}
        onClick={() => void done()}
      >
        Save this set-up
      </button>
      {!right.allowed && <ForTheChief draft={draft} why={right.text} />}
    </div>
  );
}

/** The sights of the work ahead: the effect of the remaining error is given for them. */
function Sights({ draft, usual, unit, refused, write }: Omit<Props, "guided"> & { usual: Usual; unit: string }) {
  const work = draft.document.work ?? {};
  const change = (name: "sight_m" | "elevation_deg" | "angle_wanted_arcsec") => (text: string) =>
    write((each) => around(each, { work: filled({ ...work, [name]: text }) }));
  return (
    <div className="grid grid-cols-2 gap-3">
      <Named
        id="sight"
        label={`Shortest sight, ${unit}`}
        value={lengthText(work.sight_m, draft.document.units?.length ?? "m")}
        placeholder={usual["sight_m"] ?? ""}
        onType={change("sight_m")}
        faults={refused}
        path="work.sight_m"
      />
      <Named
        id="steep"
        label="Steepest, °"
        value={String(work.elevation_deg ?? "")}
        placeholder={usual["elevation_deg"] ?? ""}
        onType={change("elevation_deg")}
        faults={refused}
        path="work.elevation_deg"
      />
      <Named
        id="wanted"
        label="Angle accuracy wanted, ″"
        value={String(work.angle_wanted_arcsec ?? "")}
        placeholder="optional"
        onType={change("angle_wanted_arcsec")}
        faults={refused}
        path="work.angle_wanted_arcsec"
      />
    </div>
  );
}

/** A trainee does not keep it: it waits on this device for whoever may. */
function ForTheChief({ draft, why }: { draft: SetUpDraft; why: string }) {
  const navigate = useNavigate();
  const notify = useNotify();
  const leave = async () => {
    await storeDraft(asDraft({ ...draft, left: true }));
    await navigate("/set-up");
    notify({ text: "Left for your crew chief on this device." });
  };
  return (
    <div className="grid gap-2">
      <p className="sub">{why}</p>
      {!draft.left && (
        <button className="btn site" onClick={() => void leave()}>
          Leave it for my crew chief
        </button>
      )}
    </div>
  );
}
