// A place typed instead of touched: millimetres to the person's right, and away from them.
import { useState } from "react";
import type { Fault } from "../../api/client";
import type { Aside } from "../../documents/setUp";
import { Named } from "../../ui/Named";
import { Fold, focusOn } from "../../ui/Fold";

type Props = {
  what: string;
  path: "spot_aside" | "bubble_aside";
  value: Aside | undefined;
  faults: Fault[];
  onNotify: (aside: Aside) => void;
};

export function AsideAsk({ what, path, value, faults, onNotify }: Props) {
  const [right, setRight] = useState(value?.right ?? "");
  const [away, setAway] = useState(value?.away ?? "");
  const notify = () => onNotify({ right, away });
  return (
    <Fold title={`Type: ${what}`} open={Boolean(value)}>
      <div className="grid grid-cols-2 gap-3">
        <Named
          id="aside-right"
          label="To your right, mm"
          value={right}
          onType={setRight}
          faults={faults}
          path={`${path}.right`}
          onNext={focusOn("aside-away")}
        />
        <Named
          id="aside-away"
          label="Away from you, mm"
          value={away}
          onType={setAway}
          faults={faults}
          path={`${path}.away`}
          onNext={notify}
        />
      </div>
      <p className="sub">Minus is left, and towards you.</p>
      <button className="btn justify-self-start" onClick={notify} disabled={!right.trim() || !away.trim()}>
        Enter
      </button>
    </Fold>
  );
}
