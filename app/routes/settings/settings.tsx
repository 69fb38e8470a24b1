import { useState } from "react";
import { useActionData, useLoaderData, useSubmit } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import { moneyText } from "../../../core/numbers/money";
import { sql } from "../../../server/db/open";
import { refuse } from "../../../server/desk/desk";
import { keepStoreDays } from "../../../server/desk/records/keep-calendar";
import { keepCompany } from "../../../server/desk/settings/keep-company";
import { keepLadder } from "../../../server/desk/settings/keep-ladder";
import { regions } from "../../../server/read/calendars";
import { theCompany } from "../../../server/read/company";
import { readLadder } from "../../../server/read/signoff";
import { Button } from "../../ui/button";
import { Field, Problems, problemAt, TextField } from "../../ui/field";
import { RecordForm, RegionField, SelectField, WeekdayField } from "../../ui/form";
import { SheetHead, Spread } from "../../ui/frame-parts";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, page } from "../../web/page";

const YES_NO = ["yes", "no"].map((v) => ({ value: v, label: v }));
const PAPERS = ["order", "requisition"] as const;

export const loader = page("keep settings", ({ db }) => {
  const company = theCompany(db);
  const ladders = Object.fromEntries(
    PAPERS.map((paper) => [
      paper,
      (readLadder(db, paper)?.rungs ?? []).map((r) => ({
        upTo: r.upTo === null ? "" : moneyText({ minor: r.upTo, currency: company.currency }),
        team: r.team?.name ?? "",
        members: r.team?.members.map((m) => m.id) ?? [],
        hours: String(r.hours || 8),
      })),
    ]),
  ) as Record<(typeof PAPERS)[number], RungDraft[]>;
  const approvers = sql<{ id: number; name: string; title: string }>(
    db,
    "SELECT p.id, p.name, p.title FROM person p JOIN person_role r ON r.person = p.id WHERE r.role = 'approver' AND p.active = 1 ORDER BY p.name",
  ).all();
  const stores = sql<{ id: number; name: string; receives: number; region: string }>(
    db,
    "SELECT id, name, receives, region FROM store ORDER BY id",
  ).all();
  return { company, ladders, approvers, stores, regions: regions() };
});

export const action = act<unknown>("keep settings", (desk, input) => {
  if (input.do === "company") return keepCompany(desk, input);
  if (input.do === "ladder") return keepLadder(desk, input);
  if (input.do === "store days") return keepStoreDays(desk, { ...input, receives: input["receives[]"] ?? [] });
  return refuse("", "This cannot be done here.");
});

interface RungDraft {
  upTo: string;
  team: string;
  members: number[];
  hours: string;
}

/** The company as it stands on papers, and who signs how much. */
export default function Settings() {
  const { company, ladders, approvers, stores, regions } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const [last, setLast] = useState<string | null>(null);
  const key = useSubmissionKey(answer);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const about = (what: string) => (last === what ? problems : undefined);
  const at = (field: string) => problemAt(about("company"), field);
  return (
    <Spread
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="Company and spend ladders" />
          <form
            className="grid grid-cols-[repeat(2,minmax(0,380px))] gap-4 border-t-2 border-ink px-4.5 py-4 max-md:grid-cols-1"
            onSubmit={(e) => {
              e.preventDefault();
              setLast("company");
              const body = new FormData(e.currentTarget);
              body.set("do", "company");
              body.set("key", `${key()}company`);
              submit(body, { method: "post" });
            }}
          >
            <TextField label="Company" name="name" defaultValue={company.name} maxLength={120} problem={at("name")} />
            <TextField
              label="Tax number"
              name="taxNumber"
              defaultValue={company.taxNumber}
              maxLength={40}
              problem={at("taxNumber")}
            />
            <Field label="Address, as it stands on papers" problem={at("address")}>
              {(a) => (
                <textarea
                  {...a}
                  name="address"
                  rows={3}
                  className="entry"
                  defaultValue={company.address}
                  maxLength={300}
                />
              )}
            </Field>
            <div className="flex flex-col gap-4">
              <TextField
                label="Purchasing’s e-mail"
                name="mail"
                type="email"
                defaultValue={company.mail}
                problem={at("mail")}
              />
              <Field label="Count what is on order as available" problem={at("countOnOrder")}>
                {(a) => (
                  <select
                    {...a}
                    name="countOnOrder"
                    className="entry"
                    defaultValue={company.countOnOrder ? "yes" : "no"}
                  >
                    <option value="yes">yes</option>
                    <option value="no">no</option>
                  </select>
                )}
              </Field>
            </div>
            <SelectField
              label="Budgets count what is ordered"
              name="budgetBy"
              defaultValue={company.budgetBy}
              options={[
                { value: "due", label: "in the period in which it is due" },
                { value: "ordered", label: "in the period in which it is ordered" },
              ]}
              problem={at("budgetBy")}
            />
            <SelectField
              label="Jobs marked for direct delivery write their orders"
              name="directOrders"
              defaultValue={company.directOrders ? "yes" : "no"}
              options={YES_NO}
              problem={at("directOrders")}
              hint="as drafts, where whoever keeps the job may write orders"
            />
            <SelectField
              label="Count what jobs give back as supply"
              name="countOutput"
              defaultValue={company.countOutput ? "yes" : "no"}
              options={YES_NO}
              problem={at("countOutput")}
              hint="such as a rebuilt pump, on the day it should be there"
            />
            <SelectField
              label="Buy what a job lacks for that job"
              name="tieJobs"
              defaultValue={company.tieJobs ? "yes" : "no"}
              options={YES_NO}
              problem={at("tieJobs")}
              hint="yes ties it by itself when the job is saved"
            />
            <TextField
              label="Goods should be there, % of the time"
              name="serviceLevel"
              defaultValue={decimalText(company.serviceLevel, 2)}
              inputMode="decimal"
              problem={at("serviceLevel")}
              hint="for the suggested reorder points"
            />
            <TextField
              label="Holding stock costs, % of its value a year"
              name="holdingRate"
              defaultValue={decimalText(company.holdingRate, 2)}
              inputMode="decimal"
              problem={at("holdingRate")}
              hint="weighed where an order is filled up with needs of later weeks"
            />
            <Problems problems={about("company")} />
            <div className="col-span-full">
              <Button type="submit" look="main" disabled={busy}>
                Keep the company
              </Button>
            </div>
          </form>
          <section className="border-t border-rule px-4.5 py-4" aria-label="When stores take goods in">
            <h2 className="mb-2 text-lg font-bold">When stores take goods in</h2>
            <div className="flex flex-col gap-4">
              {stores.map((s) => (
                <RecordForm
                  key={s.id}
                  does="store days"
                  fields={{ store: s.id }}
                  send={`Keep ${s.name}`}
                  className="grid max-w-3xl grid-cols-[140px_minmax(0,1fr)_220px] items-start gap-x-4 max-md:grid-cols-1"
                >
                  {(fault) => (
                    <>
                      <b className="pt-5">{s.name}</b>
                      <WeekdayField label="Receives on" name="receives" days={s.receives} problem={fault("receives")} />
                      <RegionField region={s.region} regions={regions} problem={fault("region")} />
                    </>
                  )}
                </RecordForm>
              ))}
            </div>
          </section>
          {PAPERS.map((paper) => (
            <LadderForm
              key={paper}
              paper={paper}
              rungs={ladders[paper]}
              approvers={approvers}
              currency={company.currency}
              problems={about(paper)}
              busy={busy}
              onKeep={(rungs) => {
                setLast(paper);
                submit(
                  { do: "ladder", paper, rungs: rungs as never, key: `${key()}${paper}` },
                  { method: "post", encType: "application/json" },
                );
              }}
            />
          ))}
        </div>
      }
      tally={
        <TallyLine trouble={problems?.[0]?.says}>
          <span role="status">
            {answer?.ok
              ? "Kept."
              : "A paper needs every rung up to the first whose limit covers it. Papers that are being signed keep theirs."}
          </span>
        </TallyLine>
      }
    />
  );
}

function LadderForm({
  paper,
  rungs: kept,
  approvers,
  currency,
  problems,
  busy,
  onKeep,
}: {
  paper: (typeof PAPERS)[number];
  rungs: RungDraft[];
  approvers: { id: number; name: string; title: string }[];
  currency: string;
  problems?: readonly { field: string; says: string }[];
  busy: boolean;
  onKeep: (r: RungDraft[]) => void;
}) {
  const [rungs, setRungs] = useState<RungDraft[]>(
    kept.length ? kept : [{ upTo: "", team: "", members: [], hours: "8" }],
  );
  const set = (i: number, part: Partial<RungDraft>) =>
    setRungs((list) => list.map((r, j) => (j === i ? { ...r, ...part } : r)));
  const title = paper === "order" ? "Who signs orders" : "Who signs requisitions";
  return (
    <section className="border-t border-rule px-4.5 py-4" aria-label={title}>
      <h2 className="mb-2 text-lg font-bold">{title}</h2>
      <Problems problems={problems} />
      <ol className="max-w-4xl">
        {rungs.map((r, i) => (
          <li
            key={i}
            className="grid grid-cols-[150px_190px_minmax(0,1fr)_80px_70px] items-start gap-3 border-b border-rule-2 py-2 max-md:grid-cols-1"
          >
            <TextField
              label={`Up to, ${currency}`}
              value={r.upTo}
              placeholder="whatever is above"
              inputMode="decimal"
              maxLength={20}
              onChange={(e) => set(i, { upTo: e.target.value })}
              problem={problemAt(problems, `rungs.${i}.upTo`)}
            />
            <TextField
              label="Rung"
              value={r.team}
              placeholder="nobody signs"
              maxLength={60}
              onChange={(e) => set(i, { team: e.target.value })}
              problem={problemAt(problems, `rungs.${i}.team`)}
            />
            <fieldset>
              <legend className="mb-1 text-xs font-semibold text-ink-2">Any one of</legend>
              {approvers.map((p) => (
                <label key={p.id} className="flex min-h-6.5 items-center gap-2">
                  <input
                    type="checkbox"
                    className="accent-harbour"
                    checked={r.members.includes(p.id)}
                    onChange={(e) =>
                      set(i, { members: e.target.checked ? [...r.members, p.id] : r.members.filter((m) => m !== p.id) })
                    }
                  />
                  {p.name} <span className="text-xs text-ink-3">{p.title}</span>
                </label>
              ))}
              {approvers.length === 0 && (
                <p className="text-xs text-ink-3">Nobody is an approver yet: give somebody the role under People.</p>
              )}
              {problemAt(problems, `rungs.${i}.members`) && (
                <p className="text-xs font-semibold text-signal">{problemAt(problems, `rungs.${i}.members`)}</p>
              )}
            </fieldset>
            <TextField
              label="Hours"
              value={r.hours}
              inputMode="numeric"
              maxLength={4}
              onChange={(e) => set(i, { hours: e.target.value })}
              problem={problemAt(problems, `rungs.${i}.hours`)}
            />
            <button
              type="button"
              className="mt-6 text-left text-xs underline"
              aria-label={`Take away rung ${i + 1}`}
              onClick={() => setRungs((list) => list.filter((_, j) => j !== i))}
            >
              Take away
            </button>
          </li>
        ))}
      </ol>
      <div className="mt-3 flex gap-2">
        <Button onClick={() => setRungs((list) => [...list, { upTo: "", team: "", members: [], hours: "8" }])}>
          Add a rung
        </Button>
        <Button look="main" disabled={busy} onClick={() => onKeep(rungs)}>
          Keep who signs {paper === "order" ? "orders" : "requisitions"}
        </Button>
      </div>
    </section>
  );
}
