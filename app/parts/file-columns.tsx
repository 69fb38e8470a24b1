/** The columns that a file may hold, what stands in each, and which must be there (in bold). */
export function FileColumns({
  of,
  columns,
}: {
  of: string;
  columns: readonly { name: string; required: boolean; hint: string }[];
}) {
  return (
    <table className="w-full border border-rule bg-sheet text-xs">
      <caption className="sr-only">Columns of {of}</caption>
      <tbody>
        {columns.map((c) => (
          <tr key={c.name} className="border-b border-rule-2 last:border-0">
            <th
              scope="row"
              className={`py-1 pl-2.5 text-left font-mono ${c.required ? "font-semibold" : "font-normal"}`}
            >
              {c.name}
            </th>
            <td className="px-2 pr-2.5 text-ink-2">
              {c.hint}
              {c.required && ", must be there"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
