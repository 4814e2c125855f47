// A password field, and what is wrong with a password or with nothing of the kind.
import { NoSignal, Problem } from "../../api/client";
import { faultsAt } from "../../ui/Field";
import { FaultLine, Trouble } from "../../ui/parts";

export const SECRET_HINT = "Ten characters or more, not your name.";

type SecretProps = {
  label: string;
  value: string;
  onChange: (text: string) => void;
  autoComplete: string;
  path: string;
  trouble: unknown;
  hint?: string;
};

export function Secret({ label, value, onChange, autoComplete, path, trouble, hint }: SecretProps) {
  return (
    <div className="grid gap-1">
      <label className="grid gap-1 font-semibold">
        {label}
        <input
          className="field"
          type="password"
          value={value}
          autoComplete={autoComplete}
          maxLength={200}
          onChange={(event) => onChange(event.target.value)}
        />
      </label>
      {hint && <p className="sub">{hint}</p>}
      {faultsAt(trouble, path).map((each) => (
        <FaultLine key={each.path} fault={each} beside />
      ))}
    </div>
  );
}

/** What is wrong with none of the fields. */
export function OtherTrouble({ trouble }: { trouble: unknown }) {
  if (trouble instanceof NoSignal)
    return (
      <p className="fault" role="alert">
        This needs a connection.
      </p>
    );
  if (trouble instanceof Problem && trouble.faults.some((fault) => ["old", "new", "password"].includes(fault.path)))
    return null;
  return <Trouble error={trouble} />;
}
