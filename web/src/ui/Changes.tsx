// Who changed a setting, when, from what to what.
import { useQuery } from "@tanstack/react-query";
import { changesQuery } from "../api/queries";
import { useHere } from "../app/session";
import { capital, moment } from "./words";

export function Changes({ about }: { about: string }) {
  const { session } = useHere();
  const rows = useQuery(changesQuery(about)).data ?? [];
  if (!rows.length) return null;
  return (
    <details className="fold" data-changes>
      <summary>Changes on record</summary>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="border-b border-ink">
              {["What", "Was", "Is", "By", "When"].map((name) => (
                <th key={name} scope="col" className="py-2 pr-4 font-semibold">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i} className="border-b border-line">
                <td className="py-2 pr-4">{capital(row.label)}</td>
                <td className="py-2 pr-4">{row.before}</td>
                <td className="py-2 pr-4">{row.after}</td>
                <td className="py-2 pr-4 whitespace-nowrap">{row.by}</td>
                <td className="py-2 pr-4 whitespace-nowrap">{moment(row.at, session.time_zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
