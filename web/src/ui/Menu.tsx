// A button that opens a list of acts or choices.
import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export function Menu({ name, on, children }: { name: ReactNode; on: boolean; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`btn !px-3 shrink-0 whitespace-nowrap desk:!min-h-[40px] ${on ? "!bg-ink !text-card" : ""}`}
      >
        {name}
        <ChevronDown size={16} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="card z-50 max-h-[70dvh] min-w-[220px] overflow-auto p-2 shadow-[0_6px_24px_rgba(16,40,59,0.25)]"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
