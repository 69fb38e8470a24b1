import { redirect } from "react-router";
import { type Done, refuse } from "../../../server/acts/desk";
import { attachToInvoice } from "../../../server/acts/settling/attach-to-invoice";
import { answerByHand, bankAnswered } from "../../../server/acts/settling/bank-answers";
import { claimLater } from "../../../server/acts/settling/claim-later";
import { closeBooks } from "../../../server/acts/settling/close-books";
import { enterCredit } from "../../../server/acts/settling/credit-note";
import {
  claimHold,
  dropClaim,
  passHold,
  sendInvoiceBack,
  takeInvoiceOff,
} from "../../../server/acts/settling/decide-invoice";
import { enterInvoice } from "../../../server/acts/settling/enter-invoice";
import { handUp } from "../../../server/acts/settling/hand-up";
import { type FiledInvoice, invoiceFromFile } from "../../../server/acts/settling/invoice-from-file";
import type { InvoicesEntered } from "../../../server/acts/settling/invoices-from-table";
import { takePriceIntoList } from "../../../server/acts/settling/list-price";
import { payByHand, takePaymentBack } from "../../../server/acts/settling/pay";
import {
  dropPayList,
  leaveOut,
  releasePayList,
  sendPayList,
  writePayList,
} from "../../../server/acts/settling/pay-lists";
import { writeClaim } from "../../../server/acts/settling/write-claim";
import { takeBack } from "../../../server/acts/signoff/hand-over";
import { answerQuestion } from "../../../server/acts/signoff/questions";
import { enterInWorker } from "../../../server/jobs/loads";
import { type PageActs, readJson, withSent } from "../../web/page";
import { Upload } from "../../web/sent";

export const enterActs = {
  enter: (desk, input) => enterInvoice(desk, input),
  file: async (desk, input): Promise<Done<FiledInvoice | InvoicesEntered>> =>
    input.file instanceof Upload
      ? !/\.xml$/i.test(input.file.name)
        ? enterInWorker(desk, input.file.bytes)
        : invoiceFromFile(desk, input.file.bytes, {
            name: input.file.name.slice(0, 200),
            another: input.another === "yes",
          })
      : refuse("file", "Choose the file."),
} satisfies PageActs;
export type EnterWord = keyof typeof enterActs;

export const invoiceActs = {
  attach: withSent("file", "Choose a file.", (desk, file, { invoice }) =>
    attachToInvoice(desk, Number(invoice), file.name, file.bytes),
  ),
  pass: (desk, input) => passHold(desk, input),
  "hand up": (desk, input) => handUp(desk, input),
  "take back": takeBack,
  answer: answerQuestion,
  claim: (desk, input) => claimHold(desk, input),
  "claim later": (desk, input) => claimLater(desk, input),
  list: (desk, input) => takePriceIntoList(desk, input),
  "send back": (desk, input) => sendInvoiceBack(desk, input),
  "take off": (desk, input) => takeInvoiceOff(desk, input),
} satisfies PageActs;
export type InvoiceWord = keyof typeof invoiceActs;

export const payActs = {
  // One paper is looked at, with an amount of its own; others of the same supplier are paid, or set off, whole.
  pay: (desk, { day, payable, amount, early, also }) =>
    payByHand(desk, {
      day,
      parts: [{ payable, amount, early }, ...(Array.isArray(also) ? also : []).map((other) => ({ payable: other }))],
    }),
  "take back": (desk, input) => takePaymentBack(desk, input),
} satisfies PageActs;
export type PayWord = keyof typeof payActs;

export const proposalActs = {
  write: (desk, { papers, ...input }) => {
    const chosen = readJson(papers);
    const written = writePayList(desk, { ...input, papers: Array.isArray(chosen) ? chosen : [] });
    if (written.ok) throw redirect(`/pay-lists/${written.value.list}`);
    return written;
  },
} satisfies PageActs;
export type ProposalWord = keyof typeof proposalActs;

export const payListActs = {
  "leave out": (desk, input) => leaveOut(desk, input),
  release: (desk, input) => releasePayList(desk, input),
  send: (desk, input) => sendPayList(desk, input),
  drop: (desk, input) => dropPayList(desk, input),
  answer: (desk, input) => answerByHand(desk, input),
  report: withSent("file", "Choose the bank’s file.", (desk, file) => bankAnswered(desk, file.bytes)),
} satisfies PageActs;
export type PayListWord = keyof typeof payListActs;

export const bookActs = { close: (desk, input) => closeBooks(desk, input) } satisfies PageActs;
export type BookWord = keyof typeof bookActs;

export const claimActs = {
  drop: (desk, input) => dropClaim(desk, input),
  write: async (desk, input, { house }) => {
    const written = await writeClaim(desk, input);
    if (written.ok) house.post();
    return written;
  },
  credit: (desk, input) => enterCredit(desk, input),
} satisfies PageActs;
export type ClaimWord = keyof typeof claimActs;
