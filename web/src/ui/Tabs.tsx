// The pages of one place, as tabs under its head: links, so that each has an address.
import type { ReactNode } from "react";
import { NavLink } from "react-router";

export type Tab = { to: string; name: string; hidden?: boolean };

export function Tabs({ label, tabs, end }: { label: string; tabs: Tab[]; end?: ReactNode }) {
  return (
    <div className="no-print flex flex-wrap items-end justify-between gap-x-4 gap-y-2 border-b-[1.5px] border-ink max-tab:-mx-4 max-tab:px-2">
      <nav aria-label={label} className="flex min-w-0 gap-1 overflow-x-auto">
        {tabs
          .filter((tab) => !tab.hidden)
          .map((tab) => (
            <NavLink
              key={tab.to}
              to={tab.to}
              end
              className="tab flex min-h-[48px] shrink-0 items-center whitespace-nowrap px-4 font-semibold no-underline desk:min-h-[42px]"
            >
              {tab.name}
            </NavLink>
          ))}
      </nav>
      {end && <div className="flex flex-wrap gap-2 pb-1 max-tab:order-first">{end}</div>}
    </div>
  );
}

/** The pages of Settings. */
export const SettingsTabs = () => (
  <Tabs
    label="Settings"
    tabs={[
      { to: "/settings", name: "Firm" },
      { to: "/settings/people", name: "People" },
      { to: "/settings/models", name: "Models" },
      { to: "/settings/limits", name: "Limits" },
      { to: "/settings/safe-keeping", name: "Safe keeping" },
      { to: "/settings/you", name: "Your sign-in" },
    ]}
  />
);

/** The pages of Plan. */
export const PlanTabs = () => (
  <Tabs
    label="Plan"
    tabs={[
      { to: "/plan", name: "Due" },
      { to: "/plan/calendar", name: "Calendar" },
      { to: "/plan/jobs", name: "Jobs" },
      { to: "/plan/service", name: "Service" },
      { to: "/plan/rules", name: "Rules" },
    ]}
  />
);

/** The pages of Set-up. */
export const SetUpTabs = () => (
  <Tabs
    label="Set-up"
    tabs={[
      { to: "/set-up", name: "Set up" },
      { to: "/orientation", name: "Orientation" },
      { to: "/angles", name: "Angles" },
      { to: "/forecast", name: "Accuracy forecast" },
      { to: "/points", name: "Control points" },
    ]}
  />
);
