import { redirect } from "react-router";
import type { Done } from "../../../server/acts/desk";
import { done } from "../../../server/acts/desk";
import { repeatOrder } from "../../../server/acts/needs/note-needs";
import { callOff, dropCall, planCall } from "../../../server/acts/orders/call-off";
import { changePlaced } from "../../../server/acts/orders/change-placed";
import { dropOrder } from "../../../server/acts/orders/drop-lines";
import { closeShort, holdOrder, letGo, reopenOrder } from "../../../server/acts/orders/hold-order";
import { mailOrder } from "../../../server/acts/orders/mail-order";
import { moveLines } from "../../../server/acts/orders/move-lines";
import { attachToOrder, detachFromOrder } from "../../../server/acts/orders/order-files";
import { endLink, makeLink } from "../../../server/acts/orders/order-link";
import { placeOrder } from "../../../server/acts/orders/place-order";
import { reviseOrder } from "../../../server/acts/orders/revise-order";
import { startOrder } from "../../../server/acts/orders/start-order";
import { submitOrder } from "../../../server/acts/orders/submit-order";
import { arriveDirect } from "../../../server/acts/receiving/arrive";
import { keepForGood } from "../../../server/acts/records/keep-for-good";
import { writeDownAnswer } from "../../../server/acts/suppliers/answer-order";
import { drawInWorker } from "../../../server/jobs/papers/draw";
import type { FileWord } from "../../parts/attachments";
import { type PageAct, type PageActs, type Visit, withSent } from "../../web/page";
import { Upload } from "../../web/sent";
import { signingActs } from "../signoff/acts";
import { changeOf, heardOf } from "./heard";

/** The people who were ticked; nobody was asked about where the page shows none. */
const chosenOf = (input: Record<string, unknown>) => (input.chosen ? (input["to[]"] ?? []) : undefined);
const printing = ({ house }: Visit) => ({ site: house.site, draw: drawInWorker });

/** What becomes of an e-mail that was written with an act: it leaves now. */
async function posting<T>({ house }: Visit, run: Promise<Done<T>>): Promise<Done<T>> {
  const answer = await run;
  if (answer.ok) house.post();
  return answer;
}
const begun: PageAct<never> = (desk, { order }) => {
  const made = startOrder(desk, { from: order });
  if (made.ok) throw redirect(`/orders/${made.value.order}`);
  return made;
};

/** What an order's page does; `order` is the one of the address. */
export const orderActs = {
  ...signingActs,
  move: (desk, input) => {
    const moved = moveLines(desk, { ...input, lines: input.line ? [input.line] : undefined });
    if (moved.ok) throw redirect(`/orders/${moved.value.order}`);
    return moved;
  },
  delete: (desk, input) => {
    const dropped = dropOrder(desk, input);
    if (dropped.ok && !dropped.value.kept) throw redirect("/bench");
    return dropped;
  },
  submit: submitOrder,
  hold: holdOrder,
  "let go": letGo,
  close: closeShort,
  reopen: reopenOrder,
  "for good": keepForGood,
  make: begun,
  "same again": begun,
  "call off": (desk, input) => {
    const called = callOff(desk, input);
    if (called.ok) throw redirect(`/orders/${called.value.order}`);
    return called;
  },
  "plan call": planCall,
  "drop call": dropCall,
  arrived: (desk, input) => arriveDirect(desk, { deliveryNote: "", ...input }),
  attach: withSent("file", "Choose a file.", (desk, file, input) => attachToOrder(desk, input, file.name, file.bytes)),
  detach: detachFromOrder,
  said: (desk, input) =>
    writeDownAnswer(desk, heardOf(input), {
      file: input.file instanceof Upload && input.file.name ? input.file : null,
    }),
  change: (desk, input) => changePlaced(desk, { ...input, ...changeOf(input) }),
  "make link": (desk, input, { house }) => {
    const made = makeLink(desk, input);
    return made.ok ? done({ address: `${house.site}/order/${made.value.link}` }) : made;
  },
  "end link": endLink,
  revise: reviseOrder,
  place: (desk, input, visit) => posting(visit, placeOrder(desk, { ...input, to: chosenOf(input) }, printing(visit))),
  mail: (desk, input, visit) => posting(visit, mailOrder(desk, { ...input, to: chosenOf(input) }, printing(visit))),
  repeat: (desk, { order }) => {
    const repeated = repeatOrder(desk, { order });
    if (repeated.ok) throw redirect("/needs?source=repeat");
    return repeated;
  },
} satisfies PageActs & Record<FileWord, unknown>;
export type OrderWord = keyof typeof orderActs;
