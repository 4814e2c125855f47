// The button of the rail, and what stands behind it.
import { UserRound } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { WhoIsHere, usePersonActions } from "./PersonMenu";
import { useHere } from "./session";

export default function PersonButton() {
  const { person } = useHere();
  const actions = usePersonActions();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className="grid min-h-[56px] w-full justify-items-center gap-1 py-1 text-[14px] leading-tight text-[#d5dee4]"
        aria-label={`${person?.name ?? ""}: password, light, switch user`}
      >
        <UserRound size={22} aria-hidden="true" />
        {person?.name.split(" ")[0]}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          side="top"
          align="start"
          sideOffset={8}
          collisionPadding={8}
          className="card z-50 grid min-w-[280px] gap-1 p-2 shadow-[0_6px_24px_rgba(16,40,59,0.25)]"
        >
          <div className="px-3 py-1">
            <WhoIsHere />
          </div>
          {actions.map(({ name, icon, action }) => (
            <DropdownMenu.Item key={name} className="menu-item !min-h-[48px] !gap-3" onSelect={action}>
              {icon}
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
