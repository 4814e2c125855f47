// Steps, method, looks and units of a check in hand: changed at any time, nothing typed is lost.
import type { Kind } from "../../api/client";
import { beginDocument, takeMethod } from "../../engine";
import type { Draft, Length } from "../../documents/draft";
import { type Placed, hasField, methodOf, pathOf } from "../../documents/form";
import { valueAt, withAt } from "../../documents/paths";
import { Choice } from "../../ui/Choice";
import { Dialog, Trouble } from "../../ui/parts";
import type { Change } from "../../hooks/useDraft";
import { Steps } from "./Begin";
import { FieldName, Entered } from "./GroupInputs";
import { ANGLES, UNITS, remember } from "../../ui/units";
import { useTrouble } from "../../ui/refusal";

type Props = { draft: Draft; kind: Kind; form: Placed[]; change: Change; open: boolean; onClose: () => void };

export function SheetDialog({ draft, kind, form, change, open, onClose }: Props) {
  const { document } = draft;
  const set = (next: Draft["document"]) => change((each) => ({ ...each, document: next }));
  return (
    <Dialog title="Steps and method" open={open} onClose={onClose} wide>
      <div className="grid gap-5">
        <Steps kind={kind} method={methodOf(kind, document)} />
        {form
          .filter((group) => group.before || group.setting)
          .map((group) => (
            <div key={group.own + group.title} className="grid gap-4" data-group={group.own}>
              {group.fields.map((field) => {
                const path = pathOf(group, field, null);
                return (
                  <div key={path} className="grid gap-2" data-look={field.name}>
                    {field.kind === "choice" && <FieldName field={field} document={document} />}
                    <Entered
                      field={field}
                      value={valueAt(document, path)}
                      onChange={(value) => set(withAt(document, path, value))}
                    />
                  </div>
                );
              })}
            </div>
          ))}
        <Methods draft={draft} kind={kind} form={form} change={change} />
        {hasField(form, "angle") && (
          <Choice
            label="Angle format"
            value={document.units?.angle ?? "dms"}
            options={ANGLES}
            onChange={(angle) => set({ ...document, units: { ...document.units, angle } })}
          />
        )}
        <label className="grid gap-1 font-semibold">
          Remark
          <textarea
            className="field"
            rows={2}
            maxLength={2000}
            value={document.remark ?? ""}
            onChange={(event) => set({ ...document, remark: event.target.value })}
          />
        </label>
      </div>
    </Dialog>
  );
}

/** Another unit or method: what the method had filled in gives way, what was typed stays. */
function Methods({ draft, kind, form, change }: Pick<Props, "draft" | "kind" | "form" | "change">) {
  const [trouble, setTrouble] = useTrouble();
  const { document } = draft;
  const method = methodOf(kind, document);
  const unit = document.units?.length ?? "m";
  const take = async (name: string, length: Length) => {
    try {
      const [taken, begun] = await Promise.all([
        takeMethod(document, name, length),
        beginDocument(kind.kind, name, length, document.units?.angle ?? ""),
      ]);
      change((each) => ({ ...each, document: taken, begun: begun.observations }));
      remember({ unit: length, method: { kind: kind.kind, name } });
      setTrouble(null);
    } catch (error) {
      setTrouble(error);
    }
  };
  const inUnit = (length: Length) =>
    method
      ? void take(method.name, length)
      : change((each) => ({ ...each, document: { ...document, units: { ...document.units, length } } }));
  // Two methods of one form differ in what they fill in only: they can be exchanged at any time.
  const alike = method
    ? kind.methods.filter((each) => JSON.stringify(each.groups) === JSON.stringify(method.groups))
    : [];
  return (
    <>
      {hasField(form, "length") && !method?.unit && (
        <div className="grid gap-2">
          <Choice label="Units" value={unit} options={UNITS} onChange={inUnit} />
          <p className="sub">A number may also end in its own unit: 330 ft, 5'3 1/4". That unit is then used.</p>
        </div>
      )}
      {method && alike.length > 1 && (
        <div className="grid gap-2">
          <h2>Method</h2>
          <Choice
            label="Method"
            stacked
            value={method.name}
            onChange={(name) => void take(name, unit)}
            options={alike.map((each) => ({ value: each.name, label: each.title, hint: each.good_for }))}
          />
        </div>
      )}
      <Trouble error={trouble} />
    </>
  );
}
