import { useEffect, useRef, useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { readScan } from "../../../exchange/gs1/scan";
import { registerDelivery } from "../../../server/acts/consigned/register";
import { readToRegister, registrable } from "../../../server/queries/consigned/to-register";
import { ScanBar } from "../../parts/scan-bar";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, Field, problemAt } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { useLocalDraft } from "../../ui/use-local-draft";
import { act, atOf, page } from "../../web/page";
import { DeliveryFile } from "./delivery-file";
import {
  anotherLot,
  fitted,
  newDelivery,
  partsToSend,
  scanPart,
  sentAt,
  setPart,
  type TypedDelivery,
} from "./registering";

export const loader = page("register goods", ({ db, person, url, day }) => {
  const agreements = registrable(db, day, person.store);
  const named = atOf(url, "agreement");
  const id = agreements.find((a) => a.id === named)?.id ?? agreements[0]?.id ?? null;
  return { agreements, to: id === null ? null : readToRegister(db, id, day) };
});

export const action = act("register goods", (desk, input) => registerDelivery(desk, input));

type To = NonNullable<ReturnType<typeof useLoaderData<typeof loader>>["to"]>;

/** A supplier's delivery of their own goods is registered: setPart, scanPart, or from their file. */
export default function RegisterPage() {
  const { agreements, to } = useLoaderData<typeof loader>();
  if (!to)
    return (
      <SheetAndSlip
        sheet={
          <>
            <SheetHead title="Register a delivery" />
            <Empty title="No agreement runs here">
              Goods of a supplier come in under an agreement that was signed.
            </Empty>
          </>
        }
        tally={<TallyLine>nothing to register</TallyLine>}
      />
    );
  return <Register key={to.id} to={to} agreements={agreements} />;
}

function useRegistering(to: To) {
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(to);
  const kept = useLocalDraft<TypedDelivery>(`wharf.register.${to.id}`, 1);
  const [heard, setHeard] = useState<string | null>(null);
  const [beyond, setBeyond] = useState(false);
  const d = fitted(kept.draft ?? newDelivery(to.items), to.items);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const { put } = kept;
  const done = answer?.ok ? answer.value : null;
  useEffect(() => {
    if (!done) return;
    put(null);
    setBeyond(false);
  }, [done, put]);
  const hear = (code: string) => {
    if (!code.trim()) return;
    const read = readScan(code);
    if (!read.ok) return setHeard(read.says);
    const next = scanPart(d, to.items, read.value);
    if (!next) return setHeard(`“${code.trim().slice(0, 40)}” is not in ${to.name}.`);
    put(next.next);
    setHeard(next.name);
  };
  const send = () =>
    submit(
      {
        agreement: to.id,
        note: d.note,
        beyond: beyond ? "yes" : "",
        rows: partsToSend(d).map((p) => ({ ...p })),
        key: key(),
      },
      { method: "post", encType: "application/json" },
    );
  return { d, put, hear, heard, setHeard, send, busy, problems, done, beyond, setBeyond };
}

function Register({ to, agreements }: { to: To; agreements: ReturnType<typeof registrable> }) {
  const r = useRegistering(to);
  const { d, put, problems, busy } = r;
  const w = useWriting();
  const scan = useRef<HTMLInputElement>(null);
  const sent = partsToSend(d);
  useKeys([
    { key: "c", label: "scan or type a code", run: () => scan.current?.focus() },
    { key: "t", label: "register it", run: () => sent.length > 0 && !busy && void r.send() },
  ]);
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-6">
          <SheetHead
            title="Register a delivery"
            sub={`goods of ${to.supplierName} at ${to.storeName}: theirs until they are used`}
          />
          <div className="flex flex-col gap-2 px-4.5 pb-2.5">
            {agreements.length > 1 && (
              <nav aria-label="Agreement" className="flex flex-wrap gap-x-3 text-xs">
                {agreements.map((a) =>
                  a.id === to.id ? (
                    <b key={a.id} aria-current="page" className="min-h-6 content-center">
                      {a.supplier}, {a.store}
                    </b>
                  ) : (
                    <Link
                      key={a.id}
                      className="inline-block min-h-6 content-center underline max-lg:min-h-12"
                      to={`/consigned/register?agreement=${a.id}`}
                    >
                      {a.supplier}, {a.store}
                    </Link>
                  ),
                )}
              </nav>
            )}
            <ScanBar
              label="Scan or type a code of what came"
              placeholder="scan or type a code of what came"
              scan={scan}
              className="h-12"
              onCode={r.hear}
            >
              <span role="status" className="max-w-[45%] truncate text-xs">
                {r.heard}
              </span>
            </ScanBar>
            <Field label="Number of their delivery note" problem={problemAt(problems, "note")} className="max-w-xs">
              {(a) => (
                <input
                  {...a}
                  value={d.note}
                  maxLength={60}
                  onChange={(e) => put({ ...d, note: e.target.value })}
                  className="entry"
                />
              )}
            </Field>
          </div>
          <Parts to={to} r={r} />
        </div>
      }
      slip={
        <SlipPart title="From a file">
          <DeliveryFile
            agreement={to.id}
            onRead={(read) => {
              let next = read.note ? { ...d, note: read.note } : d;
              for (const item of new Set(read.rows.map((x) => x.item)))
                next = { ...next, parts: next.parts.filter((p) => p.item !== item) };
              put(fitted({ ...next, parts: [...next.parts, ...read.rows.map((x) => ({ ...x, bin: "" }))] }, to.items));
            }}
          />
          <p className="mt-2 text-xs text-ink-2">
            Their delivery note as CSV or workbook, or a UBL despatch advice that names our refill. It fills the sheet;
            nothing is registered before you say so.
          </p>
        </SlipPart>
      }
      tally={
        <TallyLine
          keys={[["c", "code"]]}
          trouble={problemAt(problems, "") ?? problemAt(problems, "rows")}
          act={
            <Button look="main" hint="T" disabled={busy || sent.length === 0} onClick={() => void r.send()}>
              Register it
            </Button>
          }
        >
          {r.done ? (
            <span role="status" className="text-weed">
              {r.done.number} is registered.{" "}
              <Link className="underline" to="/consigned">
                See the shelf
              </Link>
            </span>
          ) : (
            <span>
              <b>{sent.length}</b> of {d.parts.length} parts counted
            </span>
          )}
          {problemAt(problems, "beyond") && (
            <label className="flex items-center gap-2 font-semibold text-signal">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={r.beyond}
                onChange={(e) => r.setBeyond(e.target.checked)}
              />
              {problemAt(problems, "beyond")}
            </label>
          )}
          <span className="sr-only">{w.today}</span>
        </TallyLine>
      }
    />
  );
}

function Parts({ to, r }: { to: To; r: ReturnType<typeof useRegistering> }) {
  const w = useWriting();
  const { d, put, problems } = r;
  const lots = to.items.some((i) => i.byLot);
  return (
    <table className="w-full">
      <caption className="sr-only">What came</caption>
      <thead>
        <tr className="border-b-2 border-ink text-left text-2xs text-ink-3">
          <th className="py-1.5 pl-4.5">Item</th>
          <th className="px-2 text-right max-md:hidden">Here</th>
          <th className="px-2 text-right max-md:hidden">On its way</th>
          <th className="px-2 text-right">Came</th>
          {lots && <th className="px-2 max-md:hidden">Lot, keeps until</th>}
          <th className="px-2 pr-4.5 text-right">Into bin</th>
        </tr>
      </thead>
      <tbody>
        {d.parts.map((p, at) => {
          const item = to.items.find((i) => i.item === p.item)!;
          const index = sentAt(d, at);
          const wrong = (field: string) => (index < 0 ? undefined : problemAt(problems, `rows.${index}.${field}`));
          const set = (part: Partial<typeof p>) => put(setPart(d, at, part));
          return (
            <tr key={at} className="border-b border-rule-2 align-top">
              <td className="py-1.5 pl-4.5 leading-tight">
                {item.name}
                <span className="code block">{[item.code, item.theirCode].filter(Boolean).join(" · ")}</span>
                {item.byLot && (
                  <button
                    type="button"
                    className="min-h-6 text-xs underline"
                    onClick={() => put(anotherLot(d, p.item))}
                  >
                    another lot
                  </button>
                )}
              </td>
              <td className="figure px-2 py-2 text-right text-ink-2 max-md:hidden">{w.quantity(item.here)}</td>
              <td className="figure px-2 py-2 text-right text-ink-2 max-md:hidden">{w.quantity(item.coming)}</td>
              <td className="px-2 py-1 text-right">
                <CellEntry
                  label={`${item.name}: how much came, in ${item.unit}`}
                  problem={wrong("quantity") ?? wrong("item")}
                  value={p.quantity}
                  onChange={(e) => set({ quantity: e.target.value })}
                  inputMode="decimal"
                  maxLength={20}
                  className="w-24 text-right font-mono max-lg:min-h-12"
                />
              </td>
              {lots && (
                <td className="px-2 py-1 max-md:hidden">
                  {item.byLot && (
                    <span className="flex gap-2">
                      <CellEntry
                        label={`${item.name}: lot`}
                        problem={wrong("lot")}
                        value={p.lot}
                        onChange={(e) => set({ lot: e.target.value })}
                        maxLength={40}
                        className="w-28"
                      />
                      <DayEntry
                        aria-label={`${item.name}: keeps until`}
                        value={p.expires}
                        onDay={(expires) => set({ expires })}
                      />
                    </span>
                  )}
                </td>
              )}
              <td className="px-2 py-1 pr-4.5 text-right">
                <CellEntry
                  label={`${item.name}: into bin`}
                  problem={wrong("bin")}
                  value={p.bin}
                  placeholder="usual"
                  onChange={(e) => set({ bin: e.target.value })}
                  maxLength={20}
                  className="w-20 max-lg:min-h-12"
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
