import { useRef, useState } from "react";
import type { ItemId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import type { JobSheet } from "../../../server/queries/jobs/jobs";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { Heads } from "../../ui/heads";
import { ItemEntry } from "../../ui/item-entry";
import { newKey } from "../../ui/submission";
import type { JobWord } from "./job-acts";

interface Draft {
  key: string;
  id: number | null;
  item: ItemId | null;
  text: string;
  unit: string;
  store: StoreId;
  due: string;
  quantity: string;
}
type Line = { id: number; item: ItemId; name: string; unit: string; store: StoreId; due: string; quantity: number };

const draftOf = (l: Line): Draft => ({
  key: String(l.id),
  id: l.id,
  item: l.item,
  text: l.name,
  unit: l.unit,
  store: l.store,
  due: l.due,
  quantity: quantityText(l.quantity),
});
const blank = (d: Draft) => d.item === null && d.text === "" && d.quantity === "";

/** A job as it is written: its head, what it wants, what it gives back. Lines go like a spreadsheet. */
export function JobForm({
  job,
  stores,
  people,
  budgets,
  send,
}: {
  job: JobSheet | null;
  stores: { id: StoreId; name: string }[];
  people: { id: number; name: string }[];
  budgets: { id: number; code: string; name: string }[];
  send: string;
}) {
  const first = stores[0]?.id ?? 0;
  const [lines, setLines] = useState<Draft[]>(() => job?.lines.map(draftOf) ?? []);
  const [outputs, setOutputs] = useState<Draft[]>(() => job?.outputs.map(draftOf) ?? []);
  const packed = (list: Draft[]) =>
    JSON.stringify(
      list
        .filter((d) => !blank(d))
        .map((d) => ({ id: d.id ?? "", item: d.item ?? "", store: d.store, due: d.due, quantity: d.quantity })),
    );
  return (
    <RecordForm<JobWord>
      does="keep"
      send={send}
      body={(form) => {
        form.set("lines", packed(lines));
        form.set("outputs", packed(outputs));
      }}
    >
      {(at) => (
        <>
          <div className="grid grid-cols-4 gap-4 border-t-2 border-ink px-4.5 py-3 max-md:grid-cols-2">
            <TextField
              label="Code"
              name="code"
              defaultValue={job?.head.code ?? ""}
              maxLength={40}
              problem={at("code")}
            />
            <TextField
              label="What it is"
              name="name"
              defaultValue={job?.head.name ?? ""}
              maxLength={120}
              problem={at("name")}
            />
            <TextField
              label="Vessel or customer"
              name="vessel"
              defaultValue={job?.head.vessel ?? ""}
              maxLength={60}
              problem={at("vessel")}
            />
            <SelectField
              label="Kind"
              name="kind"
              defaultValue={job?.head.kind ?? "job"}
              options={["job", "customer order"].map((k) => ({ value: k, label: k }))}
              problem={at("kind")}
            />
          </div>
          <div className="grid grid-cols-4 gap-4 px-4.5 pb-3 max-md:grid-cols-2">
            <label className="flex items-center gap-2 self-end pb-1.5">
              <input
                type="checkbox"
                name="direct"
                defaultChecked={job?.head.direct ?? false}
                className="size-[15px] accent-harbour"
              />
              shipped to it directly
            </label>
            <TextField
              className="col-span-2"
              label="Where it is to be delivered"
              name="address"
              defaultValue={job?.head.address ?? ""}
              maxLength={300}
              problem={at("address")}
            />
            <SelectField
              label="Told when goods for it come"
              name="told"
              defaultValue={String(job?.head.told ?? "")}
              options={[{ value: "", label: "nobody" }, ...people.map((p) => ({ value: String(p.id), label: p.name }))]}
              problem={at("told")}
            />
            <SelectField
              label="Budget of what it uses of suppliers’ goods"
              name="budget"
              defaultValue={String(job?.head.budget ?? "")}
              options={[
                { value: "", label: "none" },
                ...budgets.map((b) => ({ value: String(b.id), label: `${b.code}, ${b.name}` })),
              ]}
              problem={at("budget")}
            />
          </div>
          <Lines
            title="What it wants"
            field="lines"
            lines={lines}
            put={setLines}
            stores={stores}
            store={first}
            at={at}
          />
          <Lines
            title="What it gives back to stock"
            field="outputs"
            lines={outputs}
            put={setOutputs}
            stores={stores}
            store={first}
            at={at}
          />
          <div className="h-3" />
        </>
      )}
    </RecordForm>
  );
}

function Lines({
  title,
  field,
  lines,
  put,
  stores,
  store,
  at,
}: {
  title: string;
  field: string;
  lines: Draft[];
  put: (next: Draft[]) => void;
  stores: { id: StoreId; name: string }[];
  store: StoreId;
  at: (field: string) => string | undefined;
}) {
  const fresh = useRef<string | null>(null);
  const add = () => {
    const last = lines.at(-1);
    const key = newKey();
    fresh.current = key;
    put([
      ...lines,
      {
        key,
        id: null,
        item: null,
        text: "",
        unit: "",
        store: last?.store ?? store,
        due: last?.due ?? "",
        quantity: "",
      },
    ]);
  };
  const set = (key: string, part: Partial<Draft>) => put(lines.map((l) => (l.key === key ? { ...l, ...part } : l)));
  const real = lines.filter((l) => !blank(l));
  const says = (l: Draft, name: string) => at(`${field}.${real.indexOf(l)}.${name}`);
  return (
    <section aria-label={title} className="mt-2">
      <h2 className="px-4.5 pb-1 text-base font-bold">{title}</h2>
      {at(field) && <p className="px-4.5 pb-1 font-semibold text-signal">{at(field)}</p>}
      {lines.length > 0 && (
        <table className="w-full">
          <caption className="sr-only">{title}</caption>
          <Heads
            heads={[
              { label: "Item" },
              { label: "Store", width: "w-36" },
              { label: "On", width: "w-36" },
              { label: "Quantity", align: "right", width: "w-28" },
              { label: "Unit", width: "w-16" },
              { label: "Take away", hidden: true, width: "w-20" },
            ]}
          />
          <tbody>
            {lines.map((l, i) => (
              <tr key={l.key} className="border-b border-rule-2 align-top">
                <td className="px-2 py-1 pl-4.5">
                  <ItemEntry
                    label={`${title}, line ${i + 1}: item`}
                    text={l.text}
                    placeholder="item code or name"
                    autoFocus={fresh.current === l.key}
                    invalid={says(l, "item") !== undefined}
                    onText={(text) => set(l.key, { text, item: null, unit: "" })}
                    onItem={(f) => set(l.key, { item: f.id, text: f.name, unit: f.unit ?? "" })}
                  />
                  {says(l, "item") && <p className="text-2xs font-semibold text-signal">{says(l, "item")}</p>}
                </td>
                <td className="px-2 py-1">
                  <select
                    aria-label={`${title}, line ${i + 1}: store`}
                    className="entry w-full"
                    value={l.store}
                    onChange={(e) => set(l.key, { store: Number(e.target.value) })}
                  >
                    {stores.map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.name}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="px-2 py-1">
                  <DayEntry
                    aria-label={`${title}, line ${i + 1}: day`}
                    value={l.due}
                    aria-invalid={says(l, "due") ? true : undefined}
                    onDay={(due) => set(l.key, { due })}
                  />
                  {says(l, "due") && <p className="text-2xs font-semibold text-signal">{says(l, "due")}</p>}
                </td>
                <td className="px-2 py-1 text-right">
                  <CellEntry
                    label={`${title}, line ${i + 1}: quantity`}
                    value={l.quantity}
                    problem={says(l, "quantity")}
                    inputMode="decimal"
                    maxLength={20}
                    className="w-24"
                    onChange={(e) => set(l.key, { quantity: e.target.value })}
                    onKeyDown={(e) => {
                      if (e.key !== "Enter") return;
                      e.preventDefault();
                      if (i === lines.length - 1) add();
                    }}
                  />
                </td>
                <td className="px-2 py-2.5 text-ink-2">{l.unit}</td>
                <td className="py-2 pr-4.5 text-right">
                  <button
                    type="button"
                    className="text-xs underline"
                    aria-label={`${title}: take away line ${i + 1}`}
                    onClick={() => put(lines.filter((o) => o.key !== l.key))}
                  >
                    Take away
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="px-4.5 py-2">
        <Button onClick={add}>Add a line</Button>
      </div>
    </section>
  );
}
