import { useActionData, useLoaderData } from "react-router";
import type { OrderState } from "../../../core/orders/status";
import { may } from "../../../core/people/roles";
import { readWaitingChange, withItsChange } from "../../../server/acts/orders/change-placed";
import { budgetsOfOrder } from "../../../server/queries/budgets/budgets";
import { storeChoices, unitChoices } from "../../../server/queries/choices";
import { readAskerOrder } from "../../../server/queries/orders/asker-order";
import { readBlanket } from "../../../server/queries/orders/blankets";
import { orderContacts } from "../../../server/queries/orders/document";
import { draftChoices, draftFacts } from "../../../server/queries/orders/draft";
import { orderLetter } from "../../../server/queries/orders/letters";
import { readLinks } from "../../../server/queries/orders/link";
import { readMoves } from "../../../server/queries/orders/moves";
import { readOrder } from "../../../server/queries/orders/order";
import { papersAroundOrder } from "../../../server/queries/papers/around";
import { readBalance } from "../../../server/queries/settling/balance";
import { readProcess } from "../../../server/queries/signoff/process";
import { toSignOf } from "../../../server/queries/signoff/route";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { isAskedOf, mayActOn } from "../../../server/queries/signoff/waiting";
import { bindingOf, readSaid } from "../../../server/queries/suppliers/answers";
import { chancesOf } from "../../../server/queries/suppliers/chances";
import { actions, idOf, notAllowed, notFound, page } from "../../web/page";
import { AskerOrderPage } from "./asker-order";
import { DraftOrder } from "./draft-order";
import { orderActs } from "./order-acts";
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
    toSign: withItsChange(db, id, day, () => toSignOf(db, id)),
    mayWrite,
    mayPlace: may(person.roles, "place"),
    mayReopen: may(person.roles, "open again"),
    mayKeepSupplier: may(person.roles, "keep sourcing"),
    own,
    opensLadders: may(person.roles, "see ladders"),
    maySign: mayActOn(db, "order", id, person, day)
      ? signerChoices(db, day, [person.id, ...(readProcess(db, "order", id)?.process.hands ?? [])])
      : null,
    letter: head.number && may(person.roles, "place") ? orderLetter(db, head, day) : null,
    budgets: !writing ? budgetsOfOrder(db, id, day) : [],
    chances: chancesOf(db, sheet, day),
    answers: {
      said: readSaid(db, sheet.head.id),
      revision: bindingOf(db, sheet.head.id),
      change: readWaitingChange(db, sheet.head.id, day),
    },
    changing: mayWrite && head.stage === "placed" ? { stores: storeChoices(db), units: unitChoices(db) } : null,
    around: writing ? [] : papersAroundOrder(db, id),
    links: mayWrite ? readLinks(db, id) : [],
    blanket: head.kind === "blanket" && head.placed ? readBlanket(db, id, day) : null,
    drafting: writing
      ? {
          balance: may(person.roles, "see invoices") ? readBalance(db, head.supplier, day) : null,
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

export const action = actions("keep own inbox", orderActs, ({ params }) => {
  const id = idOf(params.id);
  return { order: id, paper: "order", id };
});

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
