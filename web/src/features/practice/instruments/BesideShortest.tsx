// What was done beside the shortest way, a line each.
type Row = { name: string; label: string; taken: string | number; shortest: string | number };

export function BesideShortest({ of, rows }: { of: string; rows: Row[] }) {
  return (
    <table className="w-full max-w-[460px] text-left">
      <thead>
        <tr className="sub">
          <th className="font-semibold">{of}</th>
          <th className="text-right font-semibold">Taken</th>
          <th className="text-right font-semibold">Shortest</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.name} className="border-t border-line" data-beside={row.name}>
            <td className="py-1">{row.label}</td>
            <td className="py-1 text-right font-semibold">{row.taken}</td>
            <td className="py-1 text-right">{row.shortest}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
