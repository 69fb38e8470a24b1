import type { Day } from "../../../core/calendar/day";
import type { Bears, DatedPrice, First, Settles, TheirPlace } from "../../../core/consigned/agreement";
import type { Db } from "../../db/open";
import { readAgreementHead, readAgreementItems } from "./agreement";

/** An agreement as it was signed: what its paper is drawn from, whatever becomes of the records. */
export interface AgreementDocument {
  number: string;
  revision: number;
  supplier: string;
  store: string;
  currency: string;
  starts: Day;
  ends: Day;
  oursAfter: number | null;
  first: First;
  settles: Settles;
  bears: Bears;
  place: TheirPlace;
  binsFrom: string;
  binsTo: string;
  note: string;
  items: {
    code: string;
    name: string;
    unit: string;
    least: number;
    most: number;
    pack: number;
    refillDays: number;
    prices: DatedPrice[];
  }[];
}

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
