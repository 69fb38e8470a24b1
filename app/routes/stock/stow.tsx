import { useEffect, useRef } from "react";
import { Link, useActionData, useLoaderData } from "react-router";
import type { StoreId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { stowGoods } from "../../../server/acts/stock/move-goods";
import { readStowList, type Stowable } from "../../../server/queries/stock/shelves";
import { ScanBar } from "../../parts/scan-bar";
import { StoreLinks } from "../../parts/store-links";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { act, page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { DockPages } from "../receiving/dock-pages";
import { stowKey, stowRow } from "./stowing";
import { useStowing } from "./use-stowing";

export const loader = page("see shelves", ({ db, person, url }) => {
  const at = workStore(db, person, url);
  return {
    ...at,
    rows: readStowList(db, at.store),
    moves: may(person.roles, "move stock"),
    counts: may(person.roles, "count in"),
  };
});

export const action = act("move stock", (desk, input) => stowGoods(desk, input));

export default function StowPage() {
  const { store, name, stores, rows, moves, counts } = useLoaderData<typeof loader>();
  return <StowList key={store} {...{ store, name, stores, rows, moves, counts }} />;
}

interface Props {
  store: StoreId;
  name: string;
  stores: { id: number; name: string }[];
  rows: Stowable[];
  moves: boolean;
  counts: boolean;
}

/** What lies on the dock and where it goes, in the order of the walk: ticked as it is put away. */
function StowList({ store, name, stores, rows, moves, counts }: Props) {
  const answer = useActionData<typeof action>();
  const stowing = useStowing(store, rows, answer && !answer.ok ? answer.problems : undefined);
  const scan = useRef<HTMLInputElement>(null);
  const stowed = answer?.ok ? answer.value : null;
  const { put } = stowing;
  useEffect(() => {
    if (stowed) put(null); // what was ticked is put away now
  }, [stowed, put]);
  const { done, busy } = stowing;
  useKeys(
    moves && rows.length > 0
      ? [
          { key: "c", label: "scan goods or a bin", run: () => scan.current?.focus() },
          { key: "a", label: "all of it", run: stowing.all },
          { key: "t", label: "it is stowed", run: stowing.take },
        ]
      : [],
  );
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Stow list" sub={`what lies on the dock of ${name}, in the order of the walk`}>
            <DockPages here="stow" counts={counts} />
          </SheetHead>
          <div className="px-4.5 pb-2">
            <StoreLinks store={store} stores={stores} />
          </div>
          {moves && rows.length > 0 && (
            <div className="border-b-2 border-ink px-4.5 pb-2">
              <ScanBar
                label="Scan goods, then their bin"
                placeholder="scan goods, then their bin"
                scan={scan}
                className="h-12"
                onCode={stowing.hear}
              >
                <span aria-live="polite" className="truncate text-xs text-ink-2">
                  {stowing.heard}
                </span>
              </ScanBar>
            </div>
          )}
          {stowed && (
            <p role="status" className="px-4.5 py-2">
              Stowed:{" "}
              <Link className="font-semibold underline" to={`/stock-papers/${stowed.paper}`}>
                {stowed.number}
              </Link>
            </p>
          )}
          <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="To stow">
            {rows.map((r) => (
              <StowRow key={stowKey(r)} row={r} stowing={stowing} moves={moves} />
            ))}
            {rows.length === 0 && (
              <Empty title="The dock is clear">What is counted in stands here until it lies in its bin.</Empty>
            )}
          </ul>
        </>
      }
      tally={
        <TallyLine
          trouble={stowing.trouble}
          keys={
            moves && rows.length > 0
              ? [
                  ["c", "code"],
                  ["a", "all"],
                ]
              : []
          }
          act={
            <>
              {rows.length > 0 && (
                <ButtonLink to={`/stow/list.pdf?store=${store}`} reload>
                  Paper
                </ButtonLink>
              )}
              {moves && (
                <Button
                  look="main"
                  hint="T"
                  className="max-lg:min-h-12"
                  disabled={busy || stowing.wrong || done.length === 0}
                  onClick={stowing.take}
                >
                  {busy ? "Stowing…" : "Stowed"}
                </Button>
              )}
            </>
          }
        >
          <span>
            <b>{done.length}</b> of {rows.length} put away
          </span>
          {rows.some((r) => r.into === "") && (
            <span className="font-semibold text-signal">{rows.filter((r) => r.into === "").length} without a bin</span>
          )}
        </TallyLine>
      }
    />
  );
}

function StowRow({
  row: r,
  stowing,
  moves,
}: {
  row: Stowable;
  stowing: ReturnType<typeof useStowing>;
  moves: boolean;
}) {
  const w = useWriting();
  const key = stowKey(r);
  const { done, quantity, into, wrong } = stowRow(r, stowing.typed[key]);
  const touched = stowing.typed[key] !== undefined;
  const says = stowing.problemOf(r, "to") ?? stowing.problemOf(r, "quantity") ?? (done || touched ? wrong : null);
  return (
    <li
      id={`stow-${key}`}
      className={`grid min-h-[60px] grid-cols-[auto_minmax(0,1fr)_auto_auto_220px] items-center gap-3 border-b border-rule-2 px-4.5 py-1.5 max-lg:grid-cols-[auto_minmax(0,1fr)_auto] ${stowing.at === key ? "bg-here" : ""} ${done ? "text-ink-2" : ""}`}
    >
      <input
        type="checkbox"
        aria-label={`${r.name}${r.lotCode ? `, lot ${r.lotCode}` : ""} is put away`}
        checked={done}
        disabled={!moves}
        onChange={(e) => stowing.set(key, { done: e.target.checked })}
        className="size-7 accent-harbour"
      />
      <span className="min-w-0 leading-tight">
        <Link to={`/items/${r.item}`} className="block truncate text-[15px] font-semibold hover:underline">
          {r.name}
        </Link>
        <span className="code">
          {[
            r.code,
            r.ownerName && `of ${r.ownerName}`,
            r.lotCode && `lot ${r.lotCode}`,
            r.expires && `keeps until ${w.day(r.expires, false)}`,
            r.held && `held: ${r.held}`,
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </span>
      <span className="flex items-baseline gap-1.5">
        <input
          aria-label={`How much of ${r.name}, in ${r.unit}`}
          inputMode="decimal"
          maxLength={16}
          value={quantity}
          disabled={!moves}
          onFocus={() => stowing.setAt(key)}
          onChange={(e) => stowing.set(key, { quantity: e.target.value })}
          className="entry w-20 text-right font-mono text-base max-lg:h-12"
        />
        <span className="w-10 text-xs text-ink-3">{r.unit}</span>
      </span>
      <label className="flex items-center gap-1.5 max-lg:col-start-2">
        <span className="text-ink-3">into</span>
        <input
          aria-label={`Bin for ${r.name}`}
          maxLength={20}
          value={into}
          placeholder="bin"
          disabled={!moves}
          autoCapitalize="characters"
          onFocus={() => stowing.setAt(key)}
          onChange={(e) => stowing.set(key, { into: e.target.value })}
          className="entry w-28 font-mono text-lg font-semibold max-lg:h-12"
        />
      </label>
      <span className={`text-xs leading-tight max-lg:col-start-3 ${says ? "font-semibold text-signal" : "text-ink-3"}`}>
        {says ?? r.why}
      </span>
    </li>
  );
}
