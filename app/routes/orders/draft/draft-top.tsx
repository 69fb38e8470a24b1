import { deliveryWords, termsWords } from "../../../../core/orders/terms";
import type { OrderHead, OrderLine, OrderSheet } from "../../../../server/queries/orders/order";
import { StaleChoice } from "../../../ui/keeping-note";
import { useWriting } from "../../../ui/locale";
import { FactStrip, HeldNote } from "../order-head";
import { serves } from "../serves";
import { typedAgainst } from "./typed-against";
import type { useDraft } from "./use-draft";

/** What stands above a draft: somebody else changed it, it was sent back, or it is held. */
export function DraftNotes({
  draft,
  kept: sheet,
  version,
  busy,
  onLetGo,
}: {
  draft: ReturnType<typeof useDraft>;
  /** As the server has it. */
  kept: OrderSheet;
  version: number;
  busy: boolean;
  onLetGo: () => void;
}) {
  const { head } = draft.facts;
  const stale = draft.kept.state === "stale";
  return (
    <>
      {stale && (
        <StaleChoice
          differences={typedAgainst(draft.kept.pending(), sheet)}
          onTheirs={() => {
            draft.kept.yieldTo(version);
            draft.forget();
          }}
          onMine={() => draft.kept.insist(version)}
        />
      )}
      {head.sentBack && (
        <p className="mx-4.5 mb-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
          <b>Sent back:</b> {head.sentBack}
        </p>
      )}
      <HeldNote head={head} busy={busy} onLetGo={onLetGo} />
    </>
  );
}

/** Where it goes, on which terms, and what it serves. */
export function DraftFactStrip({
  head,
  lines,
  contacts,
}: {
  head: OrderHead;
  lines: readonly OrderLine[];
  contacts: readonly { mail: string }[];
}) {
  const w = useWriting();
  return (
    <FactStrip
      facts={[
        ["Deliver to", head.deliverAddress ? head.deliverName || head.deliverAddress : `${head.storeName} store`],
        ["Goes to", contacts.map((c) => c.mail).join(", ") || "no address for orders yet"],
        [
          "Terms",
          [
            termsWords(head.terms),
            deliveryWords(head.deliveryTerms, head.deliveryPlace).replace(" (Incoterms 2020)", ""),
            head.currency,
          ]
            .filter(Boolean)
            .join(", "),
        ],
        head.kind === "blanket"
          ? ["Holds", `${w.day(head.starts!, false)} to ${w.day(head.ends!, false)}`]
          : ["Serves", serves({ lines: [...lines] })],
      ]}
    />
  );
}
