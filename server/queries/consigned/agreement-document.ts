import type { AgreementDocument } from "../../../core/consigned/versions";
import type { Db } from "../../db/open";
import { readAgreementHead, readAgreementItems } from "./agreement";

/** As it stands now. */
export function agreementDocument(db: Db, id: number): AgreementDocument {
  const a = readAgreementHead(db, id)!;
  return {
    number: a.number ?? "",
    revision: a.revision,
    supplier: a.supplierName,
    store: a.storeName,
    currency: a.currency,
    starts: a.starts,
    ends: a.ends,
    oursAfter: a.oursAfter,
    first: a.first,
    settles: a.settles,
    bears: a.bears,
    place: a.place,
    binsFrom: a.binsFrom,
    binsTo: a.binsTo,
    note: a.note,
    items: readAgreementItems(db, id)
      .filter((i) => !i.gone)
      .map(({ code, name, unitCode, least, most, pack, refillDays, prices }) => ({
        code,
        name,
        unit: unitCode,
        least,
        most,
        pack,
        refillDays,
        prices,
      })),
  };
}
