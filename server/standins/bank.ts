import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Day } from "../../core/calendar/day";
import { parseIban } from "../../core/settling/bank-account";
import { statusReportXml } from "../../exchange/iso20022/credit-transfer";
import { allAt, readXml, textAt } from "../../exchange/xml-tree";

/** Accounts that end so are closed, for whoever wants to see a transfer come back. */
const CLOSED = /99$/;

/**
 * A bank that executes what is laid into its folder once its day has come, and rejects what an account number forbids: it
 * reads ISO 20022 pain.001 and puts its report, pain.002, into the inbox.
 */
export function standInBank({ from, inbox }: { from: string; inbox: string }) {
  return (now: string, today: Day): string[] => {
    if (!existsSync(from)) return [];
    const answered: string[] = [];
    for (const file of readdirSync(from).filter((f) => f.endsWith(".xml"))) {
      const read = readXml(readFileSync(join(from, file)));
      const [order] = read.ok ? allAt(read.root, "CstmrCdtTrfInitn") : [];
      if (!order) continue;
      const day = textAt(order, "PmtInf", "ReqdExctnDt", "Dt") ?? "";
      if (day > today) continue;
      const number = textAt(order, "GrpHdr", "MsgId") ?? "";
      const statuses = allAt(order, "PmtInf", "CdtTrfTxInf").map((t) => {
        const iban = textAt(t, "CdtrAcct", "Id", "IBAN") ?? "";
        const code = iban === "" || !parseIban(iban).ok ? "AC01" : CLOSED.test(iban) ? "AC04" : null;
        return { reference: textAt(t, "PmtId", "EndToEndId") ?? "", code };
      });
      mkdirSync(inbox, { recursive: true });
      writeFileSync(join(inbox, `bank-${file}`), statusReportXml(number, now, statuses));
      mkdirSync(join(from, "done"), { recursive: true });
      renameSync(join(from, file), join(from, "done", file));
      answered.push(number);
    }
    return answered;
  };
}
