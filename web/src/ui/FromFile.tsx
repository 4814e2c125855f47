// A document from a file: which instrument it is of, the file, and what is wrong with it. Nothing is kept before a person says so.
import { type ReactNode, useState } from "react";
import { FileInput } from "./FileInput";
import { PickInstrument } from "./PickInstrument";
import { Trouble } from "./parts";
import { useTrouble } from "./refusal";

const MAX_BYTES = 3 * 1024 * 1024;

type Props = {
  kinds: string[];
  accept: string;
  children: ReactNode;
  onFile: (file: File, tag: string) => Promise<void>;
};

export function FromFile({ kinds, accept, children, onFile }: Props) {
  const [tag, setTag] = useState("");
  const [query, setSubmitted] = useState(false);
  const [trouble, setTrouble] = useTrouble();
  const [answer, setMessage] = useState("");
  const load = async (file: File) => {
    if (!tag) return setSubmitted(true);
    setTrouble(null);
    setMessage("");
    if (file.size > MAX_BYTES) return setMessage(`${file.name} is too large: nothing was read.`);
    try {
      await onFile(file, tag);
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <div className="grid gap-5">
      <PickInstrument value={tag} onChange={setTag} missing={query && !tag} kinds={kinds} />
      <label className="grid gap-2 font-semibold">
        The file
        <FileInput accept={accept} onFile={(file) => void load(file)} />
      </label>
      <p className="sub">{children}</p>
      {answer && (
        <p className="fault" role="alert">
          {answer}
        </p>
      )}
      <Trouble error={trouble} />
    </div>
  );
}
