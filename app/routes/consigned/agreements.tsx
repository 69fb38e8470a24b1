import { type RefObject, useEffect, useRef } from "react";
import { Link, useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { passesWords, SETTLES_WORDS } from "../../../core/consigned/agreement";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { type Option, storeChoices, supplierChoices } from "../../../server/queries/choices";
import { readAgreements } from "../../../server/queries/consigned/agreement";
import { Button } from "../../ui/button";
import { Problems, problemAt } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { actions, atOf, page } from "../../web/page";
import { type BeginWord, beginActs } from "./agreement-acts";

export const loader = page("see agreements", ({ db, person, url }) => ({
  rows: readAgreements(db, atOf(url, "supplier")),
  supplier: atOf(url, "supplier"),
  writes: may(person.roles, "write orders"),
  suppliers: supplierChoices(db),
  stores: storeChoices(db),
}));

export const action = actions("write orders", beginActs);

type Row = ReturnType<typeof readAgreements>[number];
const keyOf = (r: Row) => String(r.id);

/** Agreements about suppliers' goods on our shelves: drafts, those that run, those that ended. */
export default function Agreements() {
  const { rows, supplier, writes, suppliers, stores } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const first = useRef<HTMLFormElement>(null);
  const begun = answer?.ok ? answer.value.agreement : null;
  useEffect(() => {
    if (begun !== null) void navigate(`/agreements/${begun}`);
  }, [begun, navigate]);
  const begin = () => first.current?.querySelector("select")?.focus();
  useKeys(writes ? [{ key: "+", label: "another agreement", run: begin }] : []);
  const columns: SheetColumn<Row>[] = [
    {
      key: "with",
      head: "With",
      gives: true,
      cell: (r) => (
        <Link className="hover:underline" to={`/agreements/${r.id}`}>
          <Named
            name={r.supplierName}
            code={`${r.number ?? "draft"}${r.changes ? ", a change" : ""} · ${r.storeName}`}
          />
        </Link>
      ),
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={r.state} /> },
    { key: "ours", head: "Becomes ours", keep: 1, cell: (r) => passesWords(r.oursAfter).replace("ours ", "") },
    { key: "settled", head: "Settled", keep: 0, cell: (r) => SETTLES_WORDS[r.settles] },
    { key: "items", head: "Items", keep: 0, align: "right", cell: (r) => <span className="figure">{r.items}</span> },
    { key: "ends", head: "Until", keep: 2, align: "right", cell: (r) => w.day(r.ended ?? r.ends) },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Agreements" sub="about suppliers’ goods on our shelves" />
          <Sheet
            label="Agreements"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/agreements/${r.id}`)}
            empty={
              <Empty title="No supplier keeps goods here yet">
                An agreement says for which items, at which price from which day, how much lies here at least and at
                most, and when it becomes ours. It is signed like a blanket order.
              </Empty>
            }
          />
        </>
      }
      slip={
        writes ? (
          <SlipPart title="Another agreement">
            <BeginForm supplier={supplier} suppliers={suppliers} stores={stores} first={first} />
          </SlipPart>
        ) : undefined
      }
      tally={
        <TallyLine
          keys={writes ? [["+", "another agreement"]] : []}
          act={writes && <Button onClick={begin}>Another agreement</Button>}
        >
          <b>{count(rows.filter((r) => r.state === "Running").length, "agreement")}</b> running
        </TallyLine>
      }
    />
  );
}

/** Whose goods, and where: the draft opens once it is begun. */
function BeginForm({
  supplier,
  suppliers,
  stores,
  first,
}: {
  supplier: number | null;
  suppliers: readonly Option[];
  stores: readonly Option[];
  first: RefObject<HTMLFormElement | null>;
}) {
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  return (
    <form
      ref={first}
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        const form = new FormData(e.currentTarget);
        form.set("do", "start" satisfies BeginWord);
        form.set("key", `${key()}start`);
        if (!busy) void submit(form, { method: "post" });
      }}
    >
      <SelectField
        label="Supplier"
        problem={problemAt(problems, "supplier")}
        name="supplier"
        defaultValue={supplier ?? ""}
        options={[{ value: "", label: "choose" }, ...suppliers.map((s) => ({ value: s.id, label: s.name }))]}
      />
      <SelectField
        label="Store"
        name="store"
        problem={problemAt(problems, "store")}
        options={stores.map((s) => ({ value: s.id, label: s.name }))}
      />
      <Problems problems={problems} />
      <Button type="submit" look="main" disabled={busy}>
        Begin it
      </Button>
    </form>
  );
}
