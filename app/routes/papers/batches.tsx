import { useLoaderData, useNavigate } from "react-router";
import { count } from "../../../core/text";
import { type Batch, readBatches } from "../../../server/queries/papers/batches";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { BATCH_WORDS } from "./words";

export const loader = page("see orders", ({ db, person }) => ({ batches: readBatches(db, person.id) }));

/** What the person had printed, sent or placed in one go, the newest first. */
export default function Batches() {
  const { batches } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(batches[0] ? String(batches[0].id) : null);
  const here = batches.find((b) => String(b.id) === at) ?? batches[0];
  const columns: SheetColumn<Batch>[] = [
    {
      key: "what",
      head: "Batch",
      width: "40%",
      cell: (b) => <b>{`${BATCH_WORDS[b.what].title} ${count(b.all, "order")}`}</b>,
    },
    { key: "at", head: "Begun", cell: (b) => w.moment(b.at) },
    { key: "state", head: "State", cell: (b) => (b.ended ? (b.stopped ? "stopped" : "done") : "working") },
    { key: "done", head: "Done", align: "right", cell: (b) => <span className="figure">{b.done}</span> },
    {
      key: "refused",
      head: "Refused",
      align: "right",
      cell: (b) => <span className={`figure ${b.refused ? "font-semibold text-signal" : ""}`}>{b.refused}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Batches of papers" sub="what you had printed, sent or placed in one go" />
          <Sheet
            label="Batches"
            columns={columns}
            rows={batches}
            keyOf={(b) => String(b.id)}
            at={here ? String(here.id) : null}
            onAt={setAt}
            onOpen={(b) => navigate(`/batches/${b.id}`)}
            empty={
              <Empty title="None yet">
                Tick orders under All orders, and have them printed, sent or placed together.
              </Empty>
            }
          />
        </>
      }
      tally={
        <TallyLine
          act={
            here && (
              <Button look="main" hint="⏎" onClick={() => navigate(`/batches/${here.id}`)}>
                Open it
              </Button>
            )
          }
        >
          <span>{count(batches.length, "batch", "batches")}</span>
        </TallyLine>
      }
    />
  );
}
