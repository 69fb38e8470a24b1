import { join } from "node:path";
import { redirect, useActionData, useLoaderData } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import type { OrderState } from "../../../core/orders/state";
import { may } from "../../../core/people/roles";
import { signaturesFor } from "../../../core/signoff/ladder";
import { amount, type Step, type Sum, words } from "../../../core/sums/sum";
import { sql } from "../../../server/db/open";
import { refuse } from "../../../server/desk/desk";
import { repeatOrder } from "../../../server/desk/needs/note-needs";
import { changeOrder, dropLine, dropOrder } from "../../../server/desk/orders/change-order";
import { orderContacts, placeOrder } from "../../../server/desk/orders/place-order";
import { submitOrder } from "../../../server/desk/orders/submit-order";
import { sendBack, sign } from "../../../server/desk/signoff/sign";
import { theCompany } from "../../../server/read/company";
import { servesAsker } from "../../../server/read/orders/lists";
import { type OrderSheet, readOrder } from "../../../server/read/orders/order";
import { readLadder, readTeam } from "../../../server/read/signoff";
import { postMail } from "../../../server/standins/post-office";
import { act, idOf, notAllowed, notFound, page } from "../../web/page";
import { DraftOrder } from "./draft-order";
import { WrittenOrder } from "./written-order";

export const loader = page("keep own inbox", ({ db, person, params }) => {
  const id = idOf(params.id);
  const sheet = readOrder(db, id);
  if (!sheet) throw notFound("There is no such order, or its draft was deleted.");
  const sees = may(person.roles, "see orders");
  if (!sees && !servesAsker(db, id, person.id)) throw notAllowed("Your role does not show this order.");
  const waiting = sheet.signatures.find((g) => g.state === "waiting");
  const own = sheet.head.writer === person.id;
  const { net } = sql<{ net: number }>(db, "SELECT home_net AS net FROM purchase_order WHERE id = ?").get(id)!;
  const needed = signaturesFor(readLadder(db, "order"), net, theCompany(db).currency, sheet.head.writer);
  return {
    sheet: sees ? sheet : withoutPrices(sheet, person.id),
    sees,
    homeNet: sees ? net : 0,
    mayWrite: may(person.roles, "write orders"),
    mayPlace: may(person.roles, "place"),
    maySign:
      !own &&
      may(person.roles, "sign") &&
      waiting !== undefined &&
      readTeam(db, waiting.team).some((m) => m.id === person.id),
    contacts: sees ? orderContacts(db, sheet.head.supplier) : [],
    needed: !sees
      ? null
      : needed.ok
        ? { who: needed.rungs.map((r) => r.team!.name), sum: withRate(needed.sum, sheet), says: null }
        : { who: [], sum: null, says: needed.says },
    stop: STOPS[sheet.head.state],
  };
});

const STOPS: Partial<Record<OrderState, string>> = { Draft: "Bench", "In sign-off": "Sign-off" };

/** Where the order is in foreign money, the sum of who signs begins with how it became home money. */
function withRate(sum: Sum, { head, totals }: OrderSheet): Sum {
  if (head.rate === null || head.rate === 1_000_000) return sum;
  const { minor, currency } = totals.net;
  const steps: Step[] = [
    { op: "", label: "net", figure: amount(minor, currency) },
    {
      op: "×",
      label: `rate of the day, for one ${currency}; each line rounded`,
      figure: words(decimalText(head.rate, 6)),
    },
  ];
  return { ...sum, steps: [...steps, ...sum.steps] };
}

/** What an asker may see of an order that serves them: their lines, and no prices. */
function withoutPrices(sheet: OrderSheet, asker: number): OrderSheet {
  const zero = { minor: 0, currency: sheet.head.currency };
  return {
    ...sheet,
    head: { ...sheet.head, note: "", discount: 0 },
    lines: sheet.lines
      .filter((l) => l.serves.some((s) => s.askerId === asker))
      .map((l) => ({
        ...l,
        price: null,
        priceSum: null,
        net: 0,
        standing: 0,
        discount: 0,
        priceSource: { kind: "typed" as const },
      })),
    totals: {
      lines: zero,
      discount: zero,
      net: zero,
      taxes: [],
      tax: zero,
      total: zero,
      sum: { title: "", steps: [] },
    },
    signatures: sheet.signatures.map((g) => ({ ...g, amount: 0 })),
    mails: [],
  };
}

export const action = act<unknown>("keep own inbox", async (desk, input, { params, house }) => {
  const order = idOf(params.id);
  const all = { ...input, order };
  switch (input.do) {
    case "save":
      return changeOrder(desk, all);
    case "drop line":
      return dropLine(desk, all);
    case "delete": {
      const dropped = dropOrder(desk, all);
      if (dropped.ok && !dropped.value.kept) throw redirect("/bench");
      return dropped;
    }
    case "submit":
      return submitOrder(desk, all);
    case "sign":
      return sign(desk, { ...input, paper: "order", id: order });
    case "send back":
      return sendBack(desk, { ...input, paper: "order", id: order });
    case "place": {
      const placed = await placeOrder(desk, all);
      if (placed.ok) postMail(desk.db, join(house.folder, "outbox"));
      return placed;
    }
    case "repeat": {
      const repeated = repeatOrder(desk, { order });
      if (repeated.ok) throw redirect("/needs?source=repeat");
      return repeated;
    }
    default:
      return refuse("", "This cannot be done here.");
  }
});

export default function OrderPage() {
  const loaded = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const draft = loaded.sheet.head.state === "Draft" && loaded.mayWrite;
  return draft ? (
    <DraftOrder key={loaded.sheet.head.id} {...loaded} problems={problems} />
  ) : (
    <WrittenOrder key={loaded.sheet.head.id} {...loaded} problems={problems} />
  );
}
