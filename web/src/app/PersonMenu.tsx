// Who is here, behind one button: password and sessions, bright light, terms, switch user.
import { CircleHelp, Hand, KeyRound, LogOut, Sun } from "lucide-react";
import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { NoSignal } from "../api/client";
import { ROLE_NAMES } from "../ui/words";
import { openGlossary } from "../ui/Terms";
import { useBrightLight, useWorkingHand } from "./light";
import { useNotify } from "./notices";
import { useHere } from "./session";

/** What the person here can do about their sign-in and this device. */
export function usePersonActions(): { name: string; icon: ReactNode; action: () => void }[] {
  const { signOut } = useHere();
  const notify = useNotify();
  const navigate = useNavigate();
  const [bright, setBright] = useBrightLight();
  const [hand, setHand] = useWorkingHand();
  const change = () =>
    signOut()
      .then(() => navigate("/"))
      .catch((error: unknown) =>
        notify({
          text:
            error instanceof NoSignal
              ? "Switching user needs a connection: without it nobody else can sign in."
              : "Signing out did not work. Try again.",
        }),
      );
  return [
    {
      name: bright ? "Bright light: on" : "Bright light: off",
      icon: <Sun size={20} aria-hidden="true" strokeWidth={bright ? 3 : 1.8} />,
      action: () => setBright(!bright),
    },
    {
      name: `Controls: ${hand} hand`,
      icon: <Hand size={20} aria-hidden="true" />,
      action: () => setHand(hand === "right" ? "left" : "right"),
    },
    { name: "Terms and keys", icon: <CircleHelp size={20} aria-hidden="true" />, action: () => openGlossary() },
    {
      name: "Password and sessions",
      icon: <KeyRound size={20} aria-hidden="true" />,
      action: () => void navigate("/settings/you"),
    },
    { name: "Switch user", icon: <LogOut size={20} aria-hidden="true" />, action: () => void change() },
  ];
}

export function WhoIsHere() {
  const { person } = useHere();
  return (
    <p>
      <b className="font-bold">{person?.name}</b>
      <span className="sub block">
        {ROLE_NAMES[person?.role ?? ""]}
        {person?.crew ? `, ${person.crew} crew` : ""}
      </span>
    </p>
  );
}
