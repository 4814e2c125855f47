// One chip that says whether readings come from a device, and the dialog in which a link is made.
import { type FormEvent, useState } from "react";
import { type Link, connectBridge, connectSerial, disconnect, hasSerial } from "../device/link";
import { useLink } from "../hooks/useLink";
import { Field } from "./Field";
import { Dialog } from "./parts";

const ADDRESS = "ws://127.0.0.1:4190";
const BAUDS = ["1200", "2400", "4800", "9600", "19200", "38400", "57600", "115200"];
const WORDS: Record<Link["state"], string> = {
  off: "None",
  connecting: "Connecting…",
  connected: "Connected",
  lost: "Link lost",
};

const remembered = (name: string, usual: string): string => localStorage.getItem(name) ?? usual;

export function ConnectChip() {
  const [open, setOpen] = useState(false);
  const link = useLink();
  const names = Object.keys(link.devices);
  const state =
    link.state === "connected" && names.length
      ? names.length > 1
        ? `${names.length} devices`
        : names[0]
      : WORDS[link.state];
  return (
    <>
      <button
        type="button"
        data-link={link.state}
        className={`min-h-[48px] max-w-[280px] shrink-0 truncate rounded-md px-3 text-left desk:min-h-[40px] ${link.state === "lost" ? "border-2 border-dashed border-coral" : "border-[1.5px] border-ink"}`}
        onClick={() => setOpen(true)}
      >
        <span className="sub">Device</span> <b className="font-semibold">{state}</b>
      </button>
      <Dialog title="Readings from a device" open={open} onClose={() => setOpen(false)}>
        {link.state === "off" ? <Connect /> : <Connected link={link} onDone={() => setOpen(false)} />}
      </Dialog>
    </>
  );
}

function Connect() {
  const [address, setAddress] = useState(() => remembered("bridge", ADDRESS));
  const [baud, setBaud] = useState(() => remembered("baud", "9600"));
  const [refused, setRefused] = useState("");
  const bridge = (event: FormEvent) => {
    event.preventDefault();
    localStorage.setItem("bridge", address.trim());
    connectBridge(address.trim());
  };
  const serial = async () => {
    localStorage.setItem("baud", baud);
    try {
      await connectSerial(Number(baud));
    } catch {
      setRefused("No port was chosen.");
    }
  };
  return (
    <div className="grid gap-5">
      <p>
        Each reading the instrument sends goes into the next open cell, as it shows it. It can be taken back, and typing
        goes on as before.
      </p>
      <form className="grid gap-2" onSubmit={bridge}>
        <Field label="Bridge" sub="A small program on this computer that passes on what a device sends." faults={[]}>
          <input
            className="field font-mono"
            value={address}
            autoComplete="off"
            spellCheck={false}
            onChange={(event) => setAddress(event.target.value)}
          />
        </Field>
        <button className="btn now">Connect to the bridge</button>
      </form>
      {hasSerial() && (
        <div className="grid gap-2 border-t border-line pt-4">
          <Field label="Bits per second" sub="As they are set at the instrument." faults={[]}>
            <select className="field" value={baud} onChange={(event) => setBaud(event.target.value)}>
              {BAUDS.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          </Field>
          <button className="btn" onClick={() => void serial()}>
            Choose a serial port
          </button>
          {refused && <p role="alert">{refused}</p>}
        </div>
      )}
    </div>
  );
}

function Connected({ link, onDone }: { link: Link; onDone: () => void }) {
  const end = () => {
    disconnect();
    onDone();
  };
  const serial = link.where === "serial";
  return (
    <div className="grid gap-4">
      <p>
        {link.state === "connected"
          ? "Connected: "
          : link.state === "lost"
            ? serial
              ? "Gone: "
              : "Not there: "
            : "Connecting: "}
        <b className="font-mono font-semibold">{serial ? "serial port" : link.where}</b>
      </p>
      {link.state === "lost" && !serial && (
        <p>
          Nothing answers at this address. It is tried again every second, and what the bridge has kept until then comes
          too. To start a bridge: <code className="font-mono">make bridge FROM=tcp:127.0.0.1:4100</code>
        </p>
      )}
      {link.message && (
        <p role="status" className="border-l-4 border-coral pl-2">
          {link.message.text}
        </p>
      )}
      <ul className="grid gap-1">
        {Object.entries(link.sources).map(([name, there]) => (
          <li key={name} className="flex justify-between gap-4 border-t border-line py-2">
            <span className="font-mono">{name}</span> <span>{there ? "there" : "not there"}</span>
          </li>
        ))}
        {Object.values(link.devices).map((line) => (
          <li key={line.device} className="flex justify-between gap-4 border-t border-line py-2">
            <b className="font-semibold">{line.device}</b>{" "}
            <span className="font-mono">{`${line.value} ${line.unit}`}</span>
          </li>
        ))}
      </ul>
      <button className="btn" onClick={end}>
        Disconnect
      </button>
    </div>
  );
}
