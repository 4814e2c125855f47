// The same check of every instrument of a model.
import { useQuery } from "@tanstack/react-query";
import { fleetQuery } from "../../api/queries";
import { Compared } from "../../ui/Compared";

export function SameModel({ tag, model, of, today }: { tag: string; model: string; of: string; today: Date }) {
  const tags = (useQuery(fleetQuery).data?.rows ?? []).filter((row) => row.model === model).map((row) => row.tag);
  if (tags.length < 2) return <p className="sub py-8">No other instrument of this model is in the fleet.</p>;
  return (
    <Compared
      tags={[tag, ...tags.filter((other) => other !== tag)]}
      of={of}
      here={tag}
      today={today}
      label={`Every ${model}`}
    />
  );
}
