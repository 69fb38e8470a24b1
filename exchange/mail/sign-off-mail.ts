import type { Day } from "../../core/calendar/day";
import { showAmount, showDay, showMoment } from "../../core/numbers/format";
import { compose, type Message } from "./message";

/** What an approver is told by e-mail: the essentials, and where to sign. */
export interface SignOffLetter {
  company: { name: string; mail: string };
  to: { name: string; mail: string };
  /** "Order 26-1042" */
  paper: string;
  about: string;
  writer: string;
  minor: number;
  currency: string;
  locale: string;
  today: Day;
  due: string;
  required: Day | null;
  lines: { words: string; quantity: string; minor: number }[];
  /** In what the lines are reckoned. */
  lineCurrency: string;
  why: "asked" | "handed over" | "climbed" | "reminded";
  link: string;
}

const WHY: Record<SignOffLetter["why"], string> = {
  asked: "waits for your signature.",
  "handed over": "was handed over to you to sign.",
  climbed: "was not answered in time, so it waits for your signature, too.",
  reminded: "still waits for your signature: half of the time is gone.",
};
const SHOWN = 5;

export function writeSignOffMail(d: SignOffLetter, moment: string): Promise<Message> {
  const rest = d.lines.length - SHOWN;
  const body = [
    `${d.to.name},`,
    "",
    `${d.paper} ${WHY[d.why]}`,
    "",
    `${d.about}`,
    `${showAmount(d.minor, d.currency, d.locale)} before tax, from ${d.writer}${d.required ? `, wanted by ${showDay(d.required, d.today, d.locale)}` : ""}`,
    "",
    ...d.lines
      .slice(0, SHOWN)
      .map(
        (l) => `  ${l.quantity ? `${l.quantity} ` : ""}${l.words}, ${showAmount(l.minor, d.lineCurrency, d.locale)}`,
      ),
    ...(rest > 0 ? [`  and ${rest} more`] : []),
    "",
    `Answer by ${showMoment(d.due, d.today, d.locale)}. Look at it and sign here; you are asked to sign in first, and the link works once:`,
    "",
    d.link,
    "",
    d.company.name,
  ].join("\n");
  return compose({
    from: { name: "Sign-off", mail: d.company.mail, company: d.company },
    to: [d.to],
    subject: `${d.paper}: ${showAmount(d.minor, d.currency, d.locale)} ${d.why === "reminded" ? "still waits" : "waits"} for your signature`,
    body,
    moment,
    attachments: [],
  });
}
