// The pages of Practice.
import { useHere } from "../../app/session";
import { Tabs } from "../../ui/Tabs";

export function PracticeTabs() {
  const { may } = useHere();
  return (
    <Tabs
      label="Practice"
      tabs={[
        { to: "/practice", name: "Lessons" },
        { to: "/practice/progress", name: "Progress" },
        { to: "/practice/people", name: "People", hidden: !may("sign-off").allowed },
      ]}
    />
  );
}
