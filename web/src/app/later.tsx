// A page whose script is fetched when it is first shown, or asked for ahead. One that could not be fetched is asked for
// again when the person comes back to it.
import { type ComponentType, use } from "react";
import { useLocation } from "react-router";

type Asked = { page: Promise<ComponentType>; at: string; failed: boolean };
export type Later = ComponentType & { ahead: () => void };

export function later(fetch: () => Promise<ComponentType>): Later {
  let asked: Asked | null = null;
  const ask = (at: string): Asked => {
    const now: Asked = { page: fetch(), at, failed: false };
    now.page.catch(() => (now.failed = true));
    return now;
  };
  function Page() {
    const { key } = useLocation();
    if (!asked || (asked.failed && asked.at !== key)) asked = ask(key);
    const Here = use(asked.page);
    return <Here />;
  }
  return Object.assign(Page, { ahead: () => void (asked ??= ask("ahead")) });
}
