import { type ComponentProps, type ReactNode, useDeferredValue, useEffect, useMemo, useState } from "react";
import { Link, redirect, useActionData, useLoaderData, useNavigate, useRevalidator, useSubmit } from "react-router";
import type { OrderId, SupplierId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import type { Reckoned } from "../../../core/placing/reckon";
import { count } from "../../../core/text";
import { type Aim, beginPlans, readPlans } from "../../../server/jobs/placing/plans";
import { readBench } from "../../../server/queries/placing/bench";
import { Button } from "../../ui/button";
import { editEntry } from "../../ui/edit-entry";
import { Cuts, Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { pack, usePacked } from "../../ui/packed";
import { newKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useStable } from "../../ui/use-stable";
import { actions, idOf, notFound, page } from "../../web/page";
import { type BenchWord, benchActs, planFault } from "./bench-acts";
import { BenchGrid } from "./bench-grid";
import { RowSlip } from "./row-slip";
import { bySales, nextSupplier } from "./stepping";
import { useBench, useBenchTick } from "./use-bench";
import { useBenchKeys } from "./use-bench-keys";
import { orderWords, rowNames, Ways } from "./ways";

/** Larger benches are planned when somebody asks for it. */
const BY_ITSELF = 300;

export const loader = page("see benches", ({ db, params, person, day, hour, house }) => {
  const sheet = readBench(db, idOf(params.id), day, hour);
  if (!sheet) throw notFound("There is no such bench.");
  if (sheet.head.cleared) throw redirect("/bench");
  const { mark, problem } = sheet;
  const mayWrite = may(person.roles, "write orders");
  const plans =
    mayWrite && problem.rows.length <= BY_ITSELF
      ? beginPlans(sheet.head.id, mark, problem, { onFault: planFault(house) })
      : readPlans(mark);
  return { sheet: pack(sheet), plans, mayWrite };
});

export const action = actions("write orders", benchActs, ({ params }) => ({ bench: idOf(params.id) }));

/** Needs down, suppliers across: what each would cost where, and where each goes. */
export default function Bench() {
  const loaded = useLoaderData<typeof loader>();
  const { mayWrite } = loaded;
  const sheet = usePacked(loaded.sheet);
  const answer = useActionData<typeof action>();
  const { head, problem, rows, gone, lost } = sheet;
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const { grid, choose, settle, trouble } = useBench(sheet, revalidate);
  // What explains the choice may follow a moment after it: the grid and its totals come first.
  const settled = useDeferredValue(grid);
  const { plans, look } = useBenchTick(head.id, sheet.mark, head.version, loaded.plans, revalidate);
  const [place, setPlace] = useState(0);
  const [shown, setShown] = useState<"ways" | "row">("ways");
  const [splitting, setSplitting] = useState(false);
  const at = Math.min(place, problem.rows.length - 1);
  const row = problem.rows[at] ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another row is not being split
  useEffect(() => setSplitting(false), [row?.id]);
  const suppliers = useMemo(() => bySales(problem), [problem]);
  const choosing = mayWrite && row !== null && !rows[row.id]!.locked;
  /** The choice moves to the next supplier who sells it. */
  const move = (by: 1 | -1) => {
    if (!row || !choosing) return;
    const next = nextSupplier(suppliers, row, grid.chosen(row), by);
    if (next !== null) pick(next);
  };
  const pick = (supplier: SupplierId) => {
    if (!row || !choosing || !row.offers.some((o) => o.supplier === supplier)) return;
    choose(row.id, { what: "supplier", supplier }, [{ supplier, share: null, buy: null }]);
  };
  const lock = () => row && choose(row.id, { what: "lock", on: !rows[row.id]!.locked }, undefined, true);
  const write = async () => {
    if (await settle()) void navigate(`/bench/${head.id}/write`);
  };
  const edit = () => editEntry("data-row", row?.id);
  const step = (by: number) => setPlace(Math.max(0, Math.min(problem.rows.length - 1, at + by)));
  useBenchKeys({
    step,
    rows: problem.rows.length,
    mayWrite,
    move,
    edit,
    lock: () => void lock(),
    turn: () => setShown((now) => (now === "ways" ? "row" : "ways")),
    split: () => {
      setShown("row");
      setSplitting(true);
    },
    write: () => void write(),
  });
  const ways = useWays(sheet, settle, look);
  const { reckoned } = grid;
  const refused = answer && !answer.ok ? answer.problems[0]?.says : null;
  const says = refused ?? trouble ?? lost[0]?.says ?? null;
  return (
    <SheetAndSlip
      sheet={
        <>
          <BenchTitle sheet={sheet} suppliers={suppliers.length} mayWrite={mayWrite} />
          {gone.length > 0 && (
            <GoneNote
              gone={gone}
              onSetAside={
                mayWrite
                  ? () => {
                      for (const g of gone) choose(g.key, { what: "set aside" }, undefined, true);
                    }
                  : null
              }
            />
          )}
          {problem.rows.length === 0 ? (
            <Empty title="Nothing lies on this bench any more">
              <Link className="underline" to="/needs">
                Tick needs
              </Link>{" "}
              and lay them out here, or put the bench away.
            </Empty>
          ) : (
            <BenchGrid
              sheet={sheet}
              grid={grid}
              suppliers={suppliers}
              place={at}
              mayWrite={mayWrite}
              onPlace={setPlace}
              onPick={(i, supplier) => {
                setPlace(i);
                const r = problem.rows[i]!;
                if (mayWrite && !rows[r.id]!.locked)
                  choose(r.id, { what: "supplier", supplier }, [{ supplier, share: null, buy: null }]);
              }}
              onQuantity={(need, wanted) => choose(need, { what: "quantity", wanted }, undefined, true)}
            />
          )}
        </>
      }
      slip={
        <BenchSlip
          sheet={sheet}
          grid={settled}
          row={row}
          mayWrite={mayWrite}
          shown={shown}
          onShown={setShown}
          ways={<Ways sheet={sheet} grid={settled} plans={plans} mayWrite={mayWrite} {...ways} />}
          splitting={splitting}
          onSplitting={setSplitting}
          onAct={(id, what, now) => choose(id, what, now, true)}
        />
      }
      tally={
        <BenchTally
          reckoned={reckoned}
          needs={problem.rows.length}
          trouble={says}
          onWrite={mayWrite ? () => void write() : null}
        />
      }
    />
  );
}

type Sheet = ReturnType<typeof readBench> & object;

/** What explains the bench: the ways to place all of it, or the need that is chosen. */
function BenchSlip({
  sheet,
  grid,
  row,
  mayWrite,
  shown,
  onShown,
  ways,
  splitting,
  onSplitting,
  onAct,
}: {
  sheet: Sheet;
  grid: ComponentProps<typeof RowSlip>["grid"];
  row: Sheet["problem"]["rows"][number] | null;
  mayWrite: boolean;
  shown: "ways" | "row";
  onShown: (shown: "ways" | "row") => void;
  ways: ReactNode;
  splitting: boolean;
  onSplitting: (on: boolean) => void;
  onAct: (row: string, ...act: Parameters<ComponentProps<typeof RowSlip>["onAct"]>) => void;
}) {
  return (
    <>
      <Cuts
        label="What the slip shows"
        value={shown}
        options={[
          { value: "ways", label: "Ways to place these" },
          { value: "row", label: row ? "The chosen need" : "No need" },
        ]}
        onChange={onShown}
      />
      {shown === "ways" || !row ? (
        ways
      ) : (
        <RowSlip
          key={row.id}
          row={row}
          about={sheet.rows[row.id]!}
          grid={grid}
          problem={sheet.problem}
          mayWrite={mayWrite}
          splitting={splitting}
          onSplitting={onSplitting}
          onAct={(what, now) => onAct(row.id, what, now)}
          fresh={sheet}
        />
      )}
    </>
  );
}

/** What lies on the bench, and the ways from it. */
function BenchTitle({
  sheet: { head, problem },
  suppliers,
  mayWrite,
}: {
  sheet: Sheet;
  suppliers: number;
  mayWrite: boolean;
}) {
  const stores = [...new Set(problem.rows.map((r) => r.store))];
  const into =
    stores.length > 2 ? `${stores.length} stores` : `into ${stores.map((s) => problem.stores[s]).join(" and ")}`;
  return (
    <SheetHead
      title={head.name}
      sub={`${count(problem.rows.length, "need")} laid out, ${count(suppliers, "supplier")}, ${into}`}
    >
      <span className="text-ink-2">{problem.home} landed, per stock unit</span>
      {mayWrite && (
        <Link className="underline" to={`/bench/${head.id}/ask`}>
          Ask for prices
        </Link>
      )}
      <Link className="underline" to="/bench">
        All benches
      </Link>
    </SheetHead>
  );
}

/** Needs that went away since they were laid out. */
function GoneNote({ gone, onSetAside }: { gone: Sheet["gone"]; onSetAside: (() => void) | null }) {
  return (
    <p role="status" className="mx-4.5 mb-2 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5">
      {gone.length === 1
        ? `${gone[0]!.name} is not needed any more, or was taken by somebody else.`
        : `${gone.length} needs are not needed any more, or were taken by somebody else: ${gone
            .slice(0, 3)
            .map((g) => g.name)
            .join(", ")}${gone.length > 3 ? " …" : ""}.`}{" "}
      {onSetAside && (
        <Button look="plain" className="min-h-0 py-0" onClick={onSetAside}>
          Take {gone.length === 1 ? "it" : "them"} off the bench
        </Button>
      )}
    </p>
  );
}

/** How far the bench is placed and what it costs, and on to the orders. */
function BenchTally({
  reckoned,
  needs,
  trouble,
  onWrite,
}: {
  reckoned: Reckoned;
  needs: number;
  trouble: string | null;
  onWrite: (() => void) | null;
}) {
  const w = useWriting();
  const below = reckoned.orders.filter((o) => o.lacks > 0);
  return (
    <TallyLine
      trouble={trouble}
      keys={[
        ["arrowright", "supplier"],
        ["s", "split"],
        ["l", "lock"],
        ["w", "the sum"],
      ]}
      act={
        onWrite && (
          <Button look="main" hint="O" disabled={reckoned.orders.length === 0} onClick={onWrite}>
            Look at {count(reckoned.orders.length, "order")}
          </Button>
        )
      }
    >
      <span>
        <b>{needs - reckoned.open.length}</b> of {needs} placed
      </span>
      <span>{orderWords(reckoned)}</span>
      <span>
        <b className="figure">{w.amount(reckoned.cost)}</b> landed
      </span>
      {reckoned.unpriced.length > 0 && (
        <span className="font-semibold text-signal">{rowNames(reckoned.unpriced)} without a price</span>
      )}
      {reckoned.never.length > 0 && (
        <span className="font-semibold text-signal">{rowNames(reckoned.never)} never arrives</span>
      )}
      {reckoned.late > 0 && (
        <span className="font-semibold text-signal">
          {reckoned.late === 1 ? "1 line late" : `${reckoned.late} lines late`}
        </span>
      )}
      {below.length > 0 && (
        <span className="font-semibold text-signal">
          {below.length === 1 ? `${below[0]!.terms.name} under its minimum` : `${below.length} under their minimum`}
        </span>
      )}
    </TallyLine>
  );
}

/** What is asked of the bench as a whole, once all that was chosen is kept. */
function useWays({ head, mark }: Sheet, settle: () => Promise<boolean>, look: () => void) {
  const submit = useSubmit();
  const perform = (fields: Record<string, string>) =>
    submit({ ...fields, key: newKey() }, { method: "post", action: `/bench/${head.id}` });
  return useStable({
    onTake: async (aim: Aim | "preferred") => {
      if (await settle()) void perform({ do: "take" satisfies BenchWord, aim, mark: mark });
    },
    onBegin: () => {
      void perform({ do: "begin plans" satisfies BenchWord });
      setTimeout(look, 300);
    },
    onStop: () => perform({ do: "stop plans" satisfies BenchWord, mark: mark }),
    settle,
    onBring: (order: string, ids: string[]) =>
      perform({ do: "bring forward" satisfies BenchWord, order, ids: JSON.stringify(ids) }),
    onAhead: (days: string) => perform({ do: "ahead" satisfies BenchWord, days }),
    onJoin: (order: OrderId, join: boolean) =>
      perform({ do: "join" satisfies BenchWord, order: String(order), join: join ? "yes" : "no" }),
  });
}
