import { moneyText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { BYTE_ORDER_MARK, csvText } from "../../../exchange/csv/write";
import { readConsigned, withWorth } from "../../../server/queries/consigned/shelves";
import { atOf, page } from "../../web/page";
import { textFile } from "./paper-answers";

/** Suppliers' goods on our shelves as a file: one row for each item; what it is worth only for whoever sees prices. */
export const loader = page("see consigned", ({ db, person, url, day }) => {
  const rows = readConsigned(db, day, { store: person.store ?? atOf(url, "store") });
  const worth = may(person.roles, "see prices") ? new Map(withWorth(db, rows, day).map((r) => [r.id, r])) : null;
  const head = [
    "agreement",
    "supplier",
    "store",
    "item",
    "name",
    "unit",
    "here",
    "least",
    "most",
    "used_30_days",
    "ours_next",
    "becomes_ours",
  ];
  return textFile(
    BYTE_ORDER_MARK +
      csvText([
        [...head, ...(worth ? ["worth", "currency"] : [])],
        ...rows.map((r) => {
          const x = worth?.get(r.id);
          return [
            r.agreementName.replace("Agreement ", ""),
            r.supplierName,
            r.storeName,
            r.code,
            r.name,
            r.unitCode,
            quantityText(r.here),
            quantityText(r.least),
            quantityText(r.most),
            quantityText(r.used30),
            r.next?.day ?? "",
            r.next ? quantityText(r.next.becomes) : "",
            ...(x ? [x.worth === null ? "" : moneyText({ minor: x.worth, currency: x.currency }), x.currency] : []),
          ];
        }),
      ]),
    "text/csv",
    "consigned.csv",
  );
});
