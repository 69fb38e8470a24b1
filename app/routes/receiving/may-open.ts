import type { ReceiptId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import type { Person } from "../../../server/acts/desk";
import type { Db } from "../../../server/db/open";
import { servesAsker } from "../../../server/queries/orders/lists";
import { whereReceived } from "../../../server/queries/receiving/dock";
import { notAllowed } from "../../web/page";

/** May this person open a receipt, and as whom: the dock of one store sees what came there, an asker what came for them. */
export function mayOpenReceipt(db: Db, person: Person, id: ReceiptId): { dock: boolean; orders: boolean } {
  const { order, store } = whereReceived(db, id);
  const orders = may(person.roles, "see orders");
  const dock = may(person.roles, "see dock") && (orders || person.store === null || store === person.store);
  if (!dock && !orders && !servesAsker(db, order, person.id)) throw notAllowed("Your role does not show this receipt.");
  return { dock, orders };
}
