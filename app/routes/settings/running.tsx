import { useLoaderData } from "react-router";
import { ONE } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import type { WatchReading } from "../../../server/jobs/watch";
import { type FileState, readFileState } from "../../../server/queries/running";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { now } from "../../web/house";
import { page } from "../../web/page";

export const loader = page("keep settings", ({ db, house: { folder, watch } }) => ({
  file: readFileState(db, folder),
  watch: watch.read(),
  at: now().toISOString(),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = WatchReading["noted"][number] & { key: string };

/** How the house runs: its file, backups, mail, and what was slow or failed since it was started. */
export default function RunningHouse() {
  const { file, watch, at } = useLoaderData<typeof loader>();
  const w = useWriting();
  const rows: Row[] = watch.noted.map((n, i) => ({ ...n, key: `${watch.noted.length - i}` }));
  const [chosen, setChosen] = useAt(rows[0]?.key ?? null);
  const here = rows.find((r) => r.key === chosen) ?? rows[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "at", head: "When", width: "130px", cell: (r) => <span className="figure">{w.moment(r.at)}</span> },
    { key: "what", head: "What", keep: 1, cell: (r) => r.what },
    { key: "of", head: "Of", cut: true, cell: (r) => <span className="code">{r.of}</span> },
    {
      key: "ms",
      head: "Took",
      align: "right",
      keep: 2,
      cell: (r) => <span className="figure">{r.ms === null ? "·" : seconds(r.ms)}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="The house" sub={`watched since ${w.moment(watch.since)}`}>
            <Button onClick={() => location.reload()}>Look again</Button>
          </SheetHead>
          <Sheet
            label="What was slow or failed"
            columns={columns}
            rows={rows}
            keyOf={(r) => r.key}
            at={here?.key ?? null}
            onAt={setChosen}
            empty={
              <Empty title="Nothing was slow, and nothing failed">
                A request of more than a second, a job that met a fault, or a house that stood still would stand here.
              </Empty>
            }
          />
        </>
      }
      slip={
        <>
          {here && (
            <>
              <SlipHead over={w.moment(here.at)} title={here.what} />
              <p className="text-sm break-words">
                {here.of} {here.says && <b className="block font-mono text-xs font-normal">{here.says}</b>}
              </p>
            </>
          )}
          <SlipPart title="How fast it answers">
            <Facts
              facts={[
                ["answered since", count(watch.requests, "request")],
                ["half of the last within", seconds(watch.half)],
                ["99 of 100 within", seconds(watch.most)],
                ["waits for the house, 99 of 100", seconds(watch.lag)],
                ["longest that it heard nothing", seconds(watch.longestLag)],
              ]}
            />
          </SlipPart>
          <SlipPart title="The company’s file">
            <Facts facts={fileFacts(file, at, w.moment, (n) => w.quantity(n * ONE))} />
          </SlipPart>
        </>
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>{count(rows.length, "thing")} to know of</span>
          {file.mail.waiting > 0 && <span>{count(file.mail.waiting, "e-mail")} waiting</span>}
        </TallyLine>
      }
    />
  );
}

function Facts({ facts }: { facts: readonly (readonly [string, string])[] }) {
  return (
    <dl className="border border-rule bg-sheet px-2.5 text-xs">
      {facts.map(([name, value]) => (
        <div
          key={name}
          className="flex min-h-7 items-center justify-between gap-3 border-b border-rule-2 last:border-0"
        >
          <dt className="text-ink-2">{name}</dt>
          <dd className="figure text-right">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

const seconds = (ms: number) => (ms < 1_000 ? `${ms} ms` : `${(ms / 1_000).toFixed(1)} s`);
const megabytes = (bytes: number) => `${(bytes / 1_048_576).toFixed(1)} MB`;

/** Days since, in words: a backup of yesterday is one day old. */
function age(from: string, to: string): string {
  const hours = (Date.parse(to) - Date.parse(from)) / 3_600_000;
  return hours < 48 ? `${Math.max(0, Math.round(hours))} h old` : `${Math.floor(hours / 24)} days old`;
}

function fileFacts(
  file: FileState,
  at: string,
  moment: (at: string) => string,
  number: (n: number) => string,
): [string, string][] {
  return [
    ["size", megabytes(file.bytes)],
    ["written beside it", megabytes(file.logBytes)],
    ["orders", number(file.rows.orders)],
    ["movements of stock", number(file.rows.movements)],
    ["rows of the trail", number(file.rows.audit)],
    [
      "last backup",
      file.backup
        ? `${age(file.backup.at, at)}${file.backup.faults > 0 ? `, ${count(file.backup.faults, "fault")}` : ", checked"}`
        : "none known",
    ],
    ["e-mails waiting", file.mail.oldest ? `${file.mail.waiting}, since ${moment(file.mail.oldest)}` : "none"],
    [
      "the trail",
      !file.trail
        ? "being followed"
        : file.trail.broken === null
          ? `whole at ${moment(file.trail.at)}`
          : `broken at ${file.trail.broken}`,
    ],
  ];
}
