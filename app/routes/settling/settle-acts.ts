import { enterCredit } from "../../../server/acts/settling/credit-note";
import {
  claimHold,
  dropClaim,
  passHold,
  sendInvoiceBack,
  takeInvoiceOff,
} from "../../../server/acts/settling/decide-invoice";
import type { PageActs } from "../../web/page";

export const invoiceActs = {
  pass: (desk, input) => passHold(desk, input),
  claim: (desk, input) => claimHold(desk, input),
  "send back": (desk, input) => sendInvoiceBack(desk, input),
  "take off": (desk, input) => takeInvoiceOff(desk, input),
} satisfies PageActs;
export type InvoiceWord = keyof typeof invoiceActs;

export const claimActs = {
  drop: (desk, input) => dropClaim(desk, input),
  credit: (desk, input) => enterCredit(desk, input),
} satisfies PageActs;
export type ClaimWord = keyof typeof claimActs;
