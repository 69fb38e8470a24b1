import { redirect } from "react-router";
import { attachFile, detachFile } from "../../../server/acts/requisitions/attach-file";
import { copyRequisition } from "../../../server/acts/requisitions/copy-requisition";
import { returnRequisition, withdrawRequisition } from "../../../server/acts/requisitions/end-requisition";
import { dropRequisition, submitRequisition } from "../../../server/acts/requisitions/raise-requisition";
import type { FileWord } from "../../parts/attachments";
import { type PageActs, withSent } from "../../web/page";
import { signingActs } from "../signoff/acts";
import { lineActs } from "./line-acts";

/** What a requisition's page does; `requisition` is the one of the address. */
export const requisitionActs = {
  ...signingActs,
  submit: submitRequisition,
  drop: (desk, input) => {
    const dropped = dropRequisition(desk, input);
    if (dropped.ok) throw redirect("/requisitions");
    return dropped;
  },
  withdraw: (desk, input) => withdrawRequisition(desk, { reason: "", ...input }),
  copy: (desk, { requisition }) => {
    const copied = copyRequisition(desk, { requisition });
    if (copied.ok) throw redirect(`/requisitions/${copied.value.requisition}`);
    return copied;
  },
  return: returnRequisition,
  ...lineActs,
  attach: withSent("file", "Choose a file.", (desk, file, { requisition }) =>
    attachFile(desk, Number(requisition), file.name, file.bytes),
  ),
  detach: detachFile,
} satisfies PageActs & Record<FileWord, unknown>;
export type RequisitionWord = keyof typeof requisitionActs;
