/** Facts of a slip, one to a line: what it is, and how it stands. */
export function FactList({ facts }: { facts: readonly (readonly [string, string])[] }) {
  return (
    <dl className="border border-rule bg-sheet">
      {facts.map(([what, is]) => (
        <div key={what} className="flex justify-between gap-4 border-b border-rule-2 px-2.5 py-1 last:border-0">
          <dt className="shrink-0 text-ink-2">{what}</dt>
          <dd className="text-right">{is}</dd>
        </div>
      ))}
    </dl>
  );
}
