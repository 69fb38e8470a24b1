import { create } from "xmlbuilder2";
import type { Day } from "../../core/calendar/day";
import { Big } from "../../core/numbers/decimal";
import { moneyText } from "../../core/numbers/money";
import type { BankAccount } from "../../core/settling/bank-account";
import { allAt, type Element, readXml, textAt } from "../xml-tree";

const ORDERS = "urn:iso:std:iso:20022:tech:xsd:pain.001.001.09";
const STATUS = "urn:iso:std:iso:20022:tech:xsd:pain.002.001.10";

/** One transfer: to whom, how much, what for. */
export interface CreditTransfer extends BankAccount {
  /** Ours, comes back with the bank's answer; at most 35 characters. */
  reference: string;
  name: string;
  currency: string;
  minor: number;
  about: string;
}
export interface TransferOrder {
  number: string;
  /** ISO, UTC. */
  made: string;
  day: Day;
  from: BankAccount & { name: string };
  transfers: readonly CreditTransfer[];
}

const agent = (bic: string) => ({ FinInstnId: bic ? { BICFI: bic } : { Othr: { Id: "NOTPROVIDED" } } });
const sumOf = (transfers: readonly CreditTransfer[]) =>
  transfers.reduce((a, t) => a.plus(moneyText({ minor: t.minor, currency: t.currency })), new Big(0)).toFixed();
/** As long as the standard lets it be, control characters aside. */
const upTo = (text: string, most: number) =>
  text
    .replace(/[\p{Cc}\p{Cs}]/gu, " ")
    .trim()
    .slice(0, most) || "-";

/** What the bank is to pay, as ISO 20022 customer credit transfer initiation, pain.001.001.09 (https://www.iso20022.org). */
export function transferOrderXml({ number, made, day, from, transfers }: TransferOrder): string {
  const control = { NbOfTxs: String(transfers.length), CtrlSum: sumOf(transfers) };
  const document = {
    "@xmlns": ORDERS,
    CstmrCdtTrfInitn: {
      GrpHdr: { MsgId: number, CreDtTm: made, ...control, InitgPty: { Nm: upTo(from.name, 70) } },
      PmtInf: {
        PmtInfId: number,
        PmtMtd: "TRF",
        ...control,
        ReqdExctnDt: { Dt: day },
        Dbtr: { Nm: upTo(from.name, 70) },
        DbtrAcct: { Id: { IBAN: from.iban } },
        DbtrAgt: agent(from.bic),
        CdtTrfTxInf: transfers.map((t) => ({
          PmtId: { EndToEndId: t.reference },
          Amt: { InstdAmt: { "@Ccy": t.currency, "#": moneyText({ minor: t.minor, currency: t.currency }) } },
          CdtrAgt: agent(t.bic),
          Cdtr: { Nm: upTo(t.name, 70) },
          CdtrAcct: { Id: { IBAN: t.iban } },
          RmtInf: { Ustrd: upTo(t.about, 140) },
        })),
      },
    },
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { Document: document }).end({ prettyPrint: true });
}

/** What the bank says of one transfer: executed, rejected with why, or nothing final yet. */
export interface TransferStatus {
  reference: string;
  status: "executed" | "rejected" | "waits";
  why: string;
}
export interface BankAnswer {
  /** Of which order, by our number. */
  number: string;
  /** The file as a whole is rejected: null where each transfer has its own answer. */
  allRejected: string | null;
  statuses: TransferStatus[];
}

/** Reasons of the ISO 20022 external code set that a buyer's bank gives; any other is shown as its code. */
const REASONS: Record<string, string> = {
  AC01: "the account number is not right",
  AC04: "the account is closed",
  AC06: "the account is blocked",
  AG01: "transfers to it are not allowed",
  AM04: "not enough on our account",
  AM05: "it was sent before",
  BE04: "the address is missing",
  DT01: "the day is not one on which they pay",
  MS03: "no reason was given",
  RC01: "the bank is not known",
};
function whyOf(e: Element): string {
  const code = textAt(e, "StsRsnInf", "Rsn", "Cd") || textAt(e, "StsRsnInf", "Rsn", "Prtry");
  const more = textAt(e, "StsRsnInf", "AddtlInf");
  return [code && (REASONS[code] ? `${REASONS[code]} (${code})` : code), more].filter(Boolean).join(", ");
}
const EXECUTED = ["ACSC", "ACCC"];

/** Reads a customer payment status report, pain.002.001.10 or an earlier one of the same shape. */
export function readBankAnswer(bytes: Uint8Array): { ok: true; value: BankAnswer } | { ok: false; says: string } {
  const read = readXml(bytes);
  if (!read.ok) return read;
  const [report] = allAt(read.root, "CstmrPmtStsRpt");
  if (!/^urn:iso:std:iso:20022:tech:xsd:pain\.002\./.test(read.root.namespace) || !report)
    return { ok: false, says: "This is no payment status report (ISO 20022 pain.002)." };
  const number = textAt(report, "OrgnlGrpInfAndSts", "OrgnlMsgId");
  if (!number) return { ok: false, says: "The report does not say of which file it is (OrgnlMsgId)." };
  const [group] = allAt(report, "OrgnlGrpInfAndSts");
  return {
    ok: true,
    value: {
      number,
      allRejected: textAt(report, "OrgnlGrpInfAndSts", "GrpSts") === "RJCT" ? whyOf(group!) || "the whole file" : null,
      statuses: allAt(report, "OrgnlPmtInfAndSts", "TxInfAndSts").map((t) => {
        const said = textAt(t, "TxSts") ?? "";
        return {
          reference: textAt(t, "OrgnlEndToEndId") ?? "",
          status: EXECUTED.includes(said) ? "executed" : said === "RJCT" ? "rejected" : "waits",
          why: whyOf(t),
        };
      }),
    },
  };
}

/** A bank's report on an order: what it executed, and what it rejected by a code of the external set. */
export function statusReportXml(
  number: string,
  made: string,
  statuses: readonly { reference: string; code: string | null }[],
): string {
  const document = {
    "@xmlns": STATUS,
    CstmrPmtStsRpt: {
      GrpHdr: { MsgId: `${number}-answer`, CreDtTm: made },
      OrgnlGrpInfAndSts: { OrgnlMsgId: number, OrgnlMsgNmId: "pain.001.001.09" },
      OrgnlPmtInfAndSts: {
        OrgnlPmtInfId: number,
        TxInfAndSts: statuses.map((s) => ({
          OrgnlEndToEndId: s.reference,
          TxSts: s.code === null ? "ACSC" : "RJCT",
          ...(s.code === null ? {} : { StsRsnInf: { Rsn: { Cd: s.code } } }),
        })),
      },
    },
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { Document: document }).end({ prettyPrint: true });
}
