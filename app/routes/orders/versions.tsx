import { Link, useLoaderData, useSearchParams } from "react-router";
import { readOrderHead } from "../../../server/queries/orders/order";
import { type Compared, compareVersions } from "../../../server/queries/orders/versions";
import { LineDifferences } from "../../parts/line-differences";
import { ButtonLink } from "../../ui/button";
import { SelectField } from "../../ui/form";
import { Empty, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { withParts } from "../../ui/use-at";
import { atOf, idOf, notFound, page } from "../../web/page";

export const loader = page("see orders", ({ db, params, url }) => {
  const id = idOf(params.id);
  if (!readOrderHead(db, id)) throw notFound("There is no such order.");
  return compareVersions(db, id, atOf(url, "from"), atOf(url, "to"));
});

/** Every version of an order as it left the house, and what differs between two of them. */
export default function VersionsPage() {
  const compared = useLoaderData<typeof loader>();
  return compared ? (
    <Versions compared={compared} />
  ) : (
    <Empty title="No versions yet">An order has its first version when it leaves the house.</Empty>
  );
}

function Versions({ compared: c }: { compared: Compared }) {
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const options = c.versions.map((v) => ({ value: String(v.revision), label: `version ${v.revision}` }));
  const choose = (part: "from" | "to") => (e: { target: { value: string } }) =>
    setSearch(withParts({ from: String(c.from), to: String(c.to), [part]: e.target.value }), {
      preventScrollReset: true,
    });
  const figures: [string, string, string][] = [
    ["Net of tax", w.money(c.before.net, c.currency), w.money(c.after.net, c.currency)],
    ["Total", w.money(c.before.total, c.currency), w.money(c.after.total, c.currency)],
  ];
  return (
    <main id="sheet" tabIndex={-1} className="col-span-full min-h-0 overflow-y-auto bg-sheet pb-8 outline-none">
      <SheetHead title={`Versions of ${c.name}`} sub={c.supplier}>
        <Link className="underline" to={`/orders/${c.id}`}>
          The order
        </Link>
      </SheetHead>
      <div className="grid max-w-5xl gap-6 px-4.5 lg:grid-cols-[1fr_2fr]">
        <ol aria-label="Versions" className="border border-rule bg-sheet">
          {c.versions.map((v) => (
            <li key={v.revision} className="border-b border-rule-2 px-2.5 py-2 last:border-0">
              <b>Version {v.revision}</b>
              <span className="block text-xs text-ink-2">
                {w.moment(v.at)}, {v.person}
                {v.reason && `: ${v.reason}`}
              </span>
              <span className="mt-1 flex gap-2">
                <ButtonLink to={`/orders/${c.id}/paper.pdf?version=${v.revision}`} reload>
                  PDF
                </ButtonLink>
                <ButtonLink to={`/orders/${c.id}/order.xml?version=${v.revision}`} reload>
                  UBL
                </ButtonLink>
              </span>
            </li>
          ))}
        </ol>
        <section aria-label="What differs">
          <div className="grid max-w-sm grid-cols-2 gap-3">
            <SelectField label="From" options={options} value={String(c.from)} onChange={choose("from")} />
            <SelectField label="To" options={options} value={String(c.to)} onChange={choose("to")} />
          </div>
          <LineDifferences
            caption={`Version ${c.from} against version ${c.to}`}
            heads={[`Version ${c.from}`, `Version ${c.to}`]}
            differences={c.differences}
            figures={figures}
            currency={c.currency}
          />
        </section>
      </div>
    </main>
  );
}
