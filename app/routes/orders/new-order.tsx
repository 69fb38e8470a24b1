import { useState } from "react";
import { redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import { KIND_WORDS, ORDER_KINDS, type OrderKind } from "../../../core/orders/kinds";
import { startOrder } from "../../../server/acts/orders/start-order";
import { openJobChoices, storeChoices, suppliersToOrderFrom } from "../../../server/queries/choices";
import { readStanding } from "../../../server/queries/orders/lists";
import { orderByNumber } from "../../../server/queries/orders/order";
import { Button } from "../../ui/button";
import { Problems, problemAt, TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { Cuts, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, page } from "../../web/page";

export const loader = page("write orders", ({ db, day, url }) => ({
  suppliers: suppliersToOrderFrom(db),
  stores: storeChoices(db),
  jobs: openJobChoices(db),
  lists: readStanding(db, day).map((l) => ({
    id: l.id,
    title: l.title || l.name,
    supplierName: l.supplierName,
    lines: l.lines,
  })),
  supplier: url.searchParams.get("supplier") ?? "",
  kind: ORDER_KINDS.find((k) => k === url.searchParams.get("kind")) ?? "one-off",
}));

export const action = act<unknown>("write orders", (desk, input) => {
  const from =
    typeof input.number === "string" && input.number.trim() ? orderByNumber(desk.db, input.number.trim()) : input.from;
  if (from === null)
    return { ok: false as const, problems: [{ field: "number", says: "We know no order of this number." }] };
  const started = startOrder(desk, { ...input, from });
  if (started.ok) throw redirect(`/orders/${started.value.order}`);
  return started;
});

const formOf = (fields: Record<string, string>) => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return form;
};

const ABOUT: Record<OrderKind, string> = {
  "one-off": "Goods and services for a day, to a store.",
  "call-off": "Drawn from a blanket order: open that one, and call off there.",
  blanket: "A quantity or a value over a time, at fixed prices; goods come when they are called off.",
  direct: "The supplier ships to the customer or the vessel; nothing lies in a store.",
  standing: "Lines that are kept, to make orders from them again and again.",
};

/** Begins an order of any kind: empty, from a standing list, or from an earlier order. */
export default function NewOrder() {
  const { suppliers, stores, jobs, lists, supplier, kind: first } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const [kind, setKind] = useState<OrderKind>(first);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const at = (field: string) => problemAt(problems, field);
  const start = (fields: FormData) => {
    if (busy) return;
    fields.set("key", key());
    void submit(fields, { method: "post" });
  };
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="New order" sub="empty, from a list, or as an earlier one" />
          <form
            id="new-order"
            className="border-t-2 border-ink px-4.5 py-4 [&>*]:max-w-[740px] flex flex-col gap-4"
            onSubmit={(e) => {
              e.preventDefault();
              start(new FormData(e.currentTarget));
            }}
          >
            <Problems problems={problems} />
            <input type="hidden" name="kind" value={kind} />
            <Cuts
              label="Kind of order"
              value={kind}
              onChange={setKind}
              options={(["one-off", "direct", "blanket", "standing"] as const).map((k) => ({
                value: k,
                label: KIND_WORDS[k] === "order" ? "one-off order" : KIND_WORDS[k],
              }))}
            />
            <p className="text-ink-2">{ABOUT[kind]}</p>
            <div className="grid grid-cols-2 gap-4 max-md:grid-cols-1">
              <SelectField
                label="Supplier"
                name="supplier"
                defaultValue={supplier}
                autoFocus
                options={[
                  { value: "", label: "choose one" },
                  ...suppliers.map((s) => ({ value: s.id, label: s.blocked ? `${s.name} (blocked)` : s.name })),
                ]}
                problem={at("supplier")}
              />
              <SelectField
                label={kind === "direct" ? "On the books of" : "For"}
                name="store"
                options={stores.map((s) => ({ value: s.id, label: s.name }))}
                problem={at("store")}
              />
              {kind === "direct" && (
                <SelectField
                  label="Delivered to the job or customer"
                  name="job"
                  options={[{ value: "", label: "choose one" }, ...jobs.map((j) => ({ value: j.id, label: j.name }))]}
                  problem={at("job")}
                />
              )}
              {(kind === "blanket" || kind === "standing") && (
                <TextField
                  label={kind === "blanket" ? "What it is called" : "What the list is called"}
                  name="title"
                  maxLength={120}
                  problem={at("title")}
                />
              )}
            </div>
          </form>
        </div>
      }
      slip={
        <>
          <SlipHead title="From what there is" />
          <SlipPart title="As an earlier order">
            <form
              className="flex items-end gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                start(new FormData(e.currentTarget));
              }}
            >
              <TextField
                className="flex-1"
                label="Its number, or its number elsewhere"
                name="number"
                maxLength={40}
                problem={at("number")}
              />
              <Button type="submit" disabled={busy}>
                Take its lines
              </Button>
            </form>
          </SlipPart>
          <FromLists lists={lists} busy={busy} onStart={(from) => start(formOf({ from }))} />
          <p className="text-ink-2">
            What is needed is quicker placed from Needs and the Bench: there, orders are written by supplier and store.
          </p>
        </>
      }
      tally={
        <TallyLine
          trouble={problems ? "Some fields need another look; they are marked." : null}
          act={
            <Button look="main" type="submit" form="new-order" disabled={busy}>
              {kind === "standing" ? "Begin the list" : "Begin the order"}
            </Button>
          }
        >
          <span className="text-ink-2">Nothing leaves the house before it is signed off and placed.</span>
        </TallyLine>
      }
    />
  );
}

function FromLists({
  lists,
  busy,
  onStart,
}: {
  lists: readonly { id: number; title: string; supplierName: string; lines: number }[];
  busy: boolean;
  onStart: (list: string) => void;
}) {
  return (
    <SlipPart title="From a standing list">
      {lists.length === 0 ? (
        <p className="text-ink-2">None is kept yet.</p>
      ) : (
        <ul className="border border-rule bg-sheet">
          {lists.map((l) => (
            <li key={l.id} className="flex items-center gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0">
              <span className="min-w-0 flex-1">
                {l.title}
                <span className="block text-xs text-ink-3">
                  {l.supplierName}, {l.lines} lines
                </span>
              </span>
              <Button
                disabled={busy}
                onClick={() => onStart(String(l.id))}
                aria-label={`Make an order from ${l.title}`}
              >
                Make an order
              </Button>
            </li>
          ))}
        </ul>
      )}
    </SlipPart>
  );
}
