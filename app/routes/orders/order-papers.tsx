import { Link } from "react-router";
import type { OrderLetter } from "../../../server/queries/orders/letters";
import type { OrderSheet } from "../../../server/queries/orders/order";
import { SlipForm } from "../../parts/slip-form";
import { Button, ButtonLink } from "../../ui/button";
import { TextField } from "../../ui/field";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { OrderWord } from "./order-acts";
import { WhoGetsIt } from "./who-gets-it";

/** The papers of an order that is written, and what else can be done with it. */
export function OrderPapers({
  sheet,
  mayWrite,
  mayReopen,
  letter,
  open,
  canCancel,
  busy,
  send,
}: {
  sheet: OrderSheet;
  mayWrite: boolean;
  mayReopen: boolean;
  /** What an e-mail would say that sends it again; null where it cannot be sent. */
  letter: OrderLetter | null;
  /** Something on it is still to come. */
  open: boolean;
  canCancel: boolean;
  busy: boolean;
  send: (what: OrderWord) => void;
}) {
  const w = useWriting();
  const { head } = sheet;
  const blanket = head.kind === "blanket";
  return (
    <SlipPart title="Papers">
      <div className="flex flex-wrap items-center gap-2">
        <ButtonLink to={`/orders/${head.id}/paper.pdf`} reload>
          {head.placed ? "The order as PDF" : "See it as PDF"}
        </ButtonLink>
        <ButtonLink to={`/orders/${head.id}/paper.pdf?prices=no`} reload>
          Without prices
        </ButtonLink>
        <ButtonLink to={`/orders/${head.id}/order.xml`} reload>
          UBL file
        </ButtonLink>
        {mayWrite && !blanket && <ButtonLink to={`/labels?order=${head.id}`}>Labels</ButtonLink>}
        {sheet.revisions.length > 0 && (
          <ButtonLink to={`/orders/${head.id}/versions`}>
            {sheet.revisions.length === 1 ? "Version 1" : `${sheet.revisions.length} versions`}
          </ButtonLink>
        )}
        <ButtonLink to={`/orders/${head.id}/lines.csv`} reload>
          Lines, CSV
        </ButtonLink>
        <ButtonLink to={`/orders/${head.id}/lines.xlsx`} reload>
          XLSX
        </ButtonLink>
        {mayWrite && head.number && !blanket && (
          <>
            <Button disabled={busy} onClick={() => send("same again")}>
              Write the same again
            </Button>
            <Button disabled={busy} onClick={() => send("repeat")}>
              Need the same again
            </Button>
          </>
        )}
        {mayWrite && head.state === "Cleared" && (
          <Button disabled={busy} onClick={() => send("revise")}>
            Change it
          </Button>
        )}
        {canCancel && (
          <Button disabled={busy} onClick={() => send("delete")}>
            Cancel this order
          </Button>
        )}
      </div>
      {sheet.mails.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-x-3">
          {sheet.mails.map((m) => (
            <Link key={m.id} to={`/outbox?at=${m.id}`} className="underline">
              {m.waits ? "waits to be e-mailed, since" : "e-mailed"} {w.moment(m.at)}
            </Link>
          ))}
        </p>
      )}
      <div className="mt-2 flex flex-col gap-1">
        {letter && letter.people.length > 0 && (
          <SlipForm<OrderWord> does="mail" fields={{}} label="Send it by e-mail again…" send="Send it again">
            <WhoGetsIt letter={letter} />
          </SlipForm>
        )}
        {mayWrite && head.state === "Cleared" && !head.held && (
          <SlipForm<OrderWord> does="hold" fields={{ version: head.version }} label="Hold it back…" send="Hold it">
            <TextField label="What it waits for" name="reason" maxLength={300} required />
          </SlipForm>
        )}
        {mayReopen && head.stage === "closed" && head.closed && (
          <SlipForm<OrderWord>
            does="reopen"
            fields={{ version: head.version }}
            label="Open it again…"
            send="Open it again"
          >
            <p className="text-xs text-ink-2">
              What was closed with it is awaited as before. The needs behind it have gone their own ways: what comes is
              for the stock.
            </p>
            <TextField label="Why" name="reason" maxLength={300} required />
          </SlipForm>
        )}
        {mayWrite && open && (
          <SlipForm<OrderWord>
            does="close"
            fields={{ version: head.version }}
            label={blanket ? "Close the blanket order…" : "Close it short…"}
            send={blanket ? "Close it" : "Close it short"}
          >
            <p className="text-xs text-ink-2">
              {blanket
                ? "Nothing more is called off from it."
                : "What has not come is not expected any more, and the needs behind it are open again."}
            </p>
            <TextField label="Why" name="reason" maxLength={300} required />
          </SlipForm>
        )}
      </div>
    </SlipPart>
  );
}
