import { redirect, useActionData, useLoaderData } from "react-router";
import type { OrderState } from "../../../core/orders/status";
import { may } from "../../../core/people/roles";
import { done, refuse } from "../../../server/acts/desk";
import { repeatOrder } from "../../../server/acts/needs/note-needs";
import { callOff, dropCall, planCall } from "../../../server/acts/orders/call-off";
import { changeOrder } from "../../../server/acts/orders/change-order";
import { dropOrder } from "../../../server/acts/orders/drop-lines";
import { closeShort, holdOrder, letGo } from "../../../server/acts/orders/hold-order";
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
import { drawInWorker } from "../../../server/jobs/papers/draw";
import { budgetsOfOrder } from "../../../server/queries/budgets/budgets";
import { readAskerOrder } from "../../../server/queries/orders/asker-order";
import { readBlanket } from "../../../server/queries/orders/blankets";
import { orderContacts } from "../../../server/queries/orders/document";
import { draftChoices, draftFacts } from "../../../server/queries/orders/draft";
import { orderLetter } from "../../../server/queries/orders/letters";
import { readLinks } from "../../../server/queries/orders/link";
import { readMoves } from "../../../server/queries/orders/moves";
import { readOrder } from "../../../server/queries/orders/order";
import { readProcess } from "../../../server/queries/signoff/process";
import { toSignOf } from "../../../server/queries/signoff/route";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { isAskedOf, mayActOn } from "../../../server/queries/signoff/waiting";
import { act, idOf, notAllowed, notFound, page } from "../../web/page";
import { Upload } from "../../web/sent";
import { actOnSigning } from "../signoff/acts";
import { AskerOrderPage } from "./asker-order";
import { DraftOrder } from "./draft-order";
import { WrittenOrder } from "./written-order";

export const loader = page("keep own inbox", ({ db, person, params, day }) => {
  const id = idOf(params.id);
  const sheet = readOrder(db, id);
  if (!sheet) throw notFound("There is no such order, or its draft was deleted.");
  const sees = may(person.roles, "see orders") || isAskedOf(db, sheet.signings, person.id, day);
  if (!sees) {
    const asked = readAskerOrder(db, id, person.id);
    if (!asked) throw notAllowed("Your role does not show this order.");
    return { asked, sheet: null, stop: undefined };
  }
  const { head } = sheet;
  const own = head.writer === person.id;
  const mayWrite = may(person.roles, "write orders");
  const writing = head.state === "Draft" && mayWrite;
  return {
    asked: null,
    sheet,
    toSign: toSignOf(db, id),
    mayWrite,
    mayPlace: may(person.roles, "place"),
    mayKeepSupplier: may(person.roles, "keep sourcing"),
    own,
    opensLadders: may(person.roles, "see ladders"),
    maySign: mayActOn(db, "order", id, person, day)
      ? signerChoices(db, day, [person.id, ...(readProcess(db, "order", id)?.process.hands ?? [])])
      : null,
    letter: head.number && may(person.roles, "place") ? orderLetter(db, head, day) : null,
    budgets: !writing ? budgetsOfOrder(db, id, day) : [],
    links: mayWrite ? readLinks(db, id) : [],
    blanket: head.kind === "blanket" && head.placed ? readBlanket(db, id, day) : null,
    drafting: writing
      ? {
          draft: draftFacts(db, head, sheet.lines, day),
          choices: draftChoices(db, head.supplier, day),
          contacts: orderContacts(db, head.supplier),
          moves: readMoves(db, head),
        }
      : null,
    stop: STOPS[head.state],
  };
});

const STOPS: Partial<Record<OrderState, string>> = { Draft: "Bench", "In sign-off": "Sign-off" };

export const action = act<unknown>("keep own inbox", async (desk, input, { params, house }) => {
  const order = idOf(params.id);
  const all = { ...input, order };
  switch (input.do) {
    case "save":
      return changeOrder(desk, all);
    case "move": {
      const moved = moveLines(desk, { ...all, lines: input.line ? [input.line] : undefined });
      if (!moved.ok) return moved;
      throw redirect(`/orders/${moved.value.order}`);
    }
    case "delete": {
      const dropped = dropOrder(desk, all);
      if (dropped.ok && !dropped.value.kept) throw redirect("/bench");
      return dropped;
    }
    case "submit":
      return submitOrder(desk, all);
    case "hold":
      return holdOrder(desk, all);
    case "let go":
      return letGo(desk, all);
    case "close":
      return closeShort(desk, all);
    case "for good":
      return keepForGood(desk, all);
    case "make":
    case "same again": {
      const made = startOrder(desk, { from: order });
      if (made.ok) throw redirect(`/orders/${made.value.order}`);
      return made;
    }
    case "call off": {
      const called = callOff(desk, all);
      if (called.ok) throw redirect(`/orders/${called.value.order}`);
      return called;
    }
    case "plan call":
      return planCall(desk, all);
    case "drop call":
      return dropCall(desk, all);
    case "arrived":
      return arriveDirect(desk, { deliveryNote: "", ...all });
    case "attach": {
      const { file } = input;
      if (!(file instanceof Upload)) return refuse("file", "Choose a file.");
      return attachToOrder(desk, all, file.name, file.bytes);
    }
    case "detach":
      return detachFromOrder(desk, all);
    case "make link": {
      const made = makeLink(desk, all);
      return made.ok ? done({ address: `${house.site}/order/${made.value.link}` }) : made;
    }
    case "end link":
      return endLink(desk, all);
    case "revise":
      return reviseOrder(desk, all);
    case "place": {
      const placed = await placeOrder(desk, { ...all, to: chosenOf(input) }, { site: house.site, draw: drawInWorker });
      if (placed.ok) house.post();
      return placed;
    }
    case "mail": {
      const mailed = await mailOrder(desk, { ...all, to: chosenOf(input) }, { site: house.site, draw: drawInWorker });
      if (mailed.ok) house.post();
      return mailed;
    }
    case "repeat": {
      const repeated = repeatOrder(desk, { order });
      if (repeated.ok) throw redirect("/needs?source=repeat");
      return repeated;
    }
    default:
      return actOnSigning(desk, { ...input, paper: "order", id: order });
  }
});

/** The people who were ticked; nobody was asked about where the page shows none. */
const chosenOf = (input: Record<string, unknown>) => (input.chosen ? (input["to[]"] ?? []) : undefined);

export default function OrderPage() {
  const loaded = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  if (loaded.asked) return <AskerOrderPage order={loaded.asked} />;
  const { drafting, asked: _, ...rest } = loaded;
  const key = loaded.sheet.head.id;
  return drafting ? (
    <DraftOrder key={key} {...rest} {...drafting} problems={problems} />
  ) : (
    <WrittenOrder key={key} {...rest} problems={problems} />
  );
}
