import { Link, useLoaderData, useNavigate } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readSuppliers } from "../../../server/queries/records/suppliers";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { page } from "../../web/page";

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export const loader = page("see suppliers", ({ db, person }) => ({
  rows: readSuppliers(db),
  mayMake: may(person.roles, "keep sourcing"),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** What a supplier asks of an order, in a sentence. */
export function termsText(
  s: Pick<Row, "minimum" | "freight" | "freeFrom" | "currency">,
  w: ReturnType<typeof useWriting>,
): string {
  const least = s.minimum ? `No order under ${w.amount(s.minimum, s.currency)}. ` : "";
  if (!s.freight) return `${least}No freight.`;
  const free = s.freeFrom ? `, free from ${w.amount(s.freeFrom, s.currency)}` : "";
  return `${least}Freight ${w.amount(s.freight, s.currency)} an order${free}.`;
}

/** Whom we buy from. */
export default function Suppliers() {
  const { rows, mayMake } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const open = (r: Row) => navigate(`/suppliers/${r.id}`);
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "name", head: "Supplier", cell: (r) => <Named name={r.name} code={r.code} /> },
    { key: "currency", head: "Currency", cell: (r) => r.currency },
    { key: "terms", keep: -1, head: "Terms", align: "right", cell: (r) => `${r.termsDays} days net` },
    {
      key: "delivers",
      keep: -1,
      head: "Delivers",
      cell: (r) => DAYS.filter((_, i) => r.delivers & (1 << i)).join(" "),
    },
    { key: "items", head: "Items", align: "right", cell: (r) => <span className="figure">{r.items}</span> },
    {
      key: "open",
      keep: 2,
      head: "Open orders",
      align: "right",
      cell: (r) => <span className="figure">{r.open || "·"}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Suppliers" sub={count(rows.length, "supplier")}>
            {mayMake && <ButtonLink to="/suppliers/new">New supplier</ButtonLink>}
          </SheetHead>
          <Sheet
            label="Suppliers"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={open}
            empty={<Empty title="No suppliers yet">An administrator loads them under Files.</Empty>}
          />
        </>
      }
      slip={
        here ? (
          <>
            <SlipHead over={here.code} title={here.name}>
              <p className="mt-1 whitespace-pre-line text-ink-2">{here.address}</p>
              <p className="mt-1">
                {here.contacts ? (
                  `Orders go to ${here.contacts}.`
                ) : (
                  <b className="text-signal">No address for orders yet.</b>
                )}
              </p>
            </SlipHead>
            <p className="text-ink-2">
              Lead times in {here.leadKind} days
              {here.cutOff !== null && `; from ${here.cutOff}:00 on, an order counts as sent a day later`}
              {here.region && `; holidays of ${here.region}`}
              {here.buyerName && `. Looked after by ${here.buyerName}`}.
            </p>
            {here.blocked && (
              <p className="border-l-4 border-signal pl-3">
                <b>Blocked:</b> {here.blocked}
              </p>
            )}
            <p className="text-ink-2">{termsText(here, w)}</p>
            <p>
              <Link to={`/suppliers/${here.id}`} className="font-semibold underline">
                Open their record
              </Link>
            </p>
          </>
        ) : (
          <Empty title="No supplier chosen" />
        )
      }
      tally={
        <TallyLine
          keys={[["arrowdown", "move"]]}
          act={
            here && (
              <Button look="main" hint="⏎" onClick={() => open(here)}>
                Open {here.name}
              </Button>
            )
          }
        >
          <span>
            <b>{rows.length}</b> suppliers
          </span>
        </TallyLine>
      }
    />
  );
}
