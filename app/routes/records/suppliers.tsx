import { Link, useLoaderData } from "react-router";
import type { OrderState } from "../../../core/orders/state";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { sql } from "../../../server/db/open";
import { keepSupplierDays } from "../../../server/desk/records/keep-calendar";
import { regions } from "../../../server/read/calendars";
import { readOrdersWith, readSuppliers } from "../../../server/read/records/suppliers";
import { TextField } from "../../ui/field";
import { RecordForm, RegionField, SelectField, WeekdayField } from "../../ui/form";
import { Empty, SheetHead, SlipHead, SlipPart, Spread } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { act, page } from "../../web/page";

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export const loader = page("see suppliers", ({ db, url, person }) => {
  const rows = readSuppliers(db);
  const at = rows.find((r) => String(r.id) === url.searchParams.get("at")) ?? rows[0];
  const mayKeep = may(person.roles, "keep sourcing");
  return {
    rows,
    orders: at ? readOrdersWith(db, at.id) : [],
    mayKeep,
    regions: mayKeep ? regions() : [],
    buyers: mayKeep
      ? sql<{ id: number; name: string }>(
          db,
          "SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person = p.id WHERE r.role IN ('buyer', 'purchasing lead') AND p.active = 1 ORDER BY p.name",
        ).all()
      : [],
  };
});

export const action = act("keep sourcing", (desk, input) =>
  keepSupplierDays(desk, { ...input, delivers: input["delivers[]"] ?? [] }),
);

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Whom we buy from. */
export default function Suppliers() {
  const { rows, orders, mayKeep, regions, buyers } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null, true);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "name", head: "Supplier", cell: (r) => <Named name={r.name} code={r.code} /> },
    { key: "currency", head: "Currency", cell: (r) => r.currency },
    { key: "terms", head: "Terms", align: "right", cell: (r) => `${r.termsDays} days net` },
    { key: "delivers", head: "Delivers", cell: (r) => DAYS.filter((_, i) => r.delivers & (1 << i)).join(" ") },
    { key: "items", head: "Items", align: "right", cell: (r) => <span className="figure">{r.items}</span> },
    { key: "open", head: "Open orders", align: "right", cell: (r) => <span className="figure">{r.open || "·"}</span> },
  ];
  return (
    <Spread
      sheet={
        <>
          <SheetHead title="Suppliers" sub={count(rows.length, "supplier")} />
          <Sheet
            label="Suppliers"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
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
            {mayKeep && (
              <details>
                <summary className="font-semibold underline">When they work and deliver</summary>
                <RecordForm
                  key={here.id}
                  does="days"
                  fields={{ supplier: here.id }}
                  send="Keep"
                  className="mt-2 flex flex-col gap-3"
                >
                  {(at) => (
                    <>
                      <WeekdayField label="Delivers on" name="delivers" days={here.delivers} problem={at("delivers")} />
                      <SelectField
                        label="Lead times count"
                        name="leadKind"
                        defaultValue={here.leadKind}
                        options={[
                          { value: "calendar", label: "calendar days" },
                          { value: "working", label: "working days" },
                        ]}
                        problem={at("leadKind")}
                      />
                      <RegionField region={here.region} regions={regions} problem={at("region")} />
                      <TextField
                        label="Cut-off hour"
                        name="cutOff"
                        defaultValue={here.cutOff ?? ""}
                        inputMode="numeric"
                        maxLength={2}
                        problem={at("cutOff")}
                        hint="orders sent from then on count as sent a day later"
                      />
                      <SelectField
                        label="Looked after by"
                        name="buyer"
                        defaultValue={here.buyer ?? ""}
                        options={[
                          { value: "", label: "nobody in particular" },
                          ...buyers.map((b) => ({ value: b.id, label: b.name })),
                        ]}
                        problem={at("buyer")}
                      />
                    </>
                  )}
                </RecordForm>
              </details>
            )}
            {orders.length > 0 && (
              <SlipPart title="Last orders">
                <ul className="border border-rule bg-sheet">
                  {orders.map((o) => (
                    <li
                      key={o.id}
                      className="flex items-center justify-between gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0"
                    >
                      <Link to={`/orders/${o.id}`} className="underline">
                        {o.number}
                      </Link>
                      <span className="text-xs">
                        <StateSquare state={o.state as OrderState} />
                      </span>
                      <span className="figure">{w.amount(o.total, o.currency)}</span>
                    </li>
                  ))}
                </ul>
              </SlipPart>
            )}
          </>
        ) : (
          <Empty title="No supplier chosen" />
        )
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>
            <b>{rows.length}</b> suppliers
          </span>
        </TallyLine>
      }
    />
  );
}
