import {
  changeAgreement,
  dropAgreement,
  endAgreement,
  keepAgreement,
  startAgreement,
} from "../../../server/acts/consigned/keep-agreement";
import { buyTheRest } from "../../../server/acts/consigned/send-back";
import { submitAgreement } from "../../../server/acts/consigned/submit-agreement";
import type { PageActs } from "../../web/page";

export const beginActs = {
  start: (desk, input) => startAgreement(desk, input),
} satisfies PageActs;
export type BeginWord = keyof typeof beginActs;

export const agreementActs = {
  keep: (desk, input) => keepAgreement(desk, input),
  submit: (desk, input) => submitAgreement(desk, input),
  drop: (desk, input) => dropAgreement(desk, input),
  change: (desk, input) => changeAgreement(desk, input),
  end: (desk, input) => endAgreement(desk, input),
  "buy the rest": (desk, input) => buyTheRest(desk, input),
} satisfies PageActs;
export type AgreementWord = keyof typeof agreementActs;
