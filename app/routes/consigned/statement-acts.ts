import {
  agreeStatement,
  makeStatement,
  questionStatement,
  sendStatement,
  withdrawStatement,
} from "../../../server/acts/consigned/statement";
import { drawConsigned } from "../../../server/jobs/papers/draw";
import type { PageActs } from "../../web/page";

export const makeActs = {
  make: (desk, input) => makeStatement(desk, input),
} satisfies PageActs;
export type MakeWord = keyof typeof makeActs;

export const statementActs = {
  send: (desk, input, { house }) => sendStatement(desk, input, { site: house.site, draw: drawConsigned }),
  agree: (desk, input) => agreeStatement(desk, input),
  question: (desk, input) => questionStatement(desk, input),
  withdraw: (desk, input) => withdrawStatement(desk, input),
} satisfies PageActs;
export type StatementWord = keyof typeof statementActs;
