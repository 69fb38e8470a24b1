import { keepSupplierDays } from "../../../server/acts/records/keep-calendar";
import { keepStockService } from "../../../server/acts/records/keep-stock-service";
import {
  attachToSupplier,
  detachFromSupplier,
  dropContact,
  keepContact,
  keepPayAndShip,
  keepSupplier,
  keepSupplierText,
} from "../../../server/acts/records/keep-supplier";
import { keepTerms } from "../../../server/acts/records/keep-terms";
import { changeCurrency } from "../../../server/acts/records/make-supplier";
import { keepSupplierAccount } from "../../../server/acts/settling/keep-account";
import type { FileWord } from "../../parts/attachments";
import { type PageActs, withSent } from "../../web/page";

/** What a supplier's page does; `supplier` is the one of the address. */
export const supplierActs = {
  record: keepSupplier,
  currency: changeCurrency,
  pay: keepPayAndShip,
  terms: keepTerms,
  days: (desk, input) => keepSupplierDays(desk, { ...input, delivers: input["delivers[]"] ?? [] }),
  contact: (desk, input) => keepContact(desk, { ...input, contact: input.contact || undefined }),
  account: keepSupplierAccount,
  "stock service": keepStockService,
  "drop contact": dropContact,
  text: keepSupplierText,
  attach: withSent("file", "Choose a file.", (desk, file, { supplier }) =>
    attachToSupplier(desk, Number(supplier), file.name, file.bytes),
  ),
  detach: detachFromSupplier,
} satisfies PageActs & Record<FileWord, unknown>;
export type SupplierWord = keyof typeof supplierActs;
