// A sheet as a file: the whole document, or its readings as a table.
import { writeTable } from "../engine";
import { Trouble } from "./parts";
import { after } from "../timers";
import { useTrouble } from "./refusal";

/** Hand the person a file made here. */
function saveFile(name: string, text: string, type: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = Object.assign(document.createElement("a"), { href: address, download: name });
  link.click();
  after("fileHeld", () => URL.revokeObjectURL(address));
}

/** `name` is the file's, without its ending. */
export function SheetFiles({ name, kind, content }: { name: string; kind: string; content: { kind: string } }) {
  const [trouble, setTrouble] = useTrouble();
  const table = async () => {
    try {
      saveFile(`${name}.csv`, await writeTable(kind, content), "text/csv");
      setTrouble(null);
    } catch (error) {
      setTrouble(error);
    }
  };
  return (
    <>
      <button
        className="btn site"
        onClick={() => saveFile(`${name}.json`, JSON.stringify(content, null, 1), "application/json")}
      >
        Save as a document file
      </button>
      <button className="btn site" onClick={() => void table()}>
        Save the readings as a table (CSV)
      </button>
      <Trouble error={trouble} />
    </>
  );
}
