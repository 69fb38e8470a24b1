import { Link, useFetcher } from "react-router";
import { ibanText } from "../../../core/settling/bank-account";
import type { PayLine, PayListSheet } from "../../../server/queries/settling/pay-lists";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Field, TextField } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import type { PayListWord } from "./settle-acts";

interface Page extends PayListSheet {
  releaseFrom: number;
  pays: boolean;
  releases: boolean;
}
interface Answer {
  ok: boolean;
  problems?: { says: string }[];
}

/** The next step of a list: it is released, then handed to the bank. */
export function PayListStep({ page: { head, pays, releases } }: { page: Page }) {
  const fetcher = useFetcher<Answer>();
  const key = useSubmissionKey(fetcher.data);
  const step = (does: PayListWord, label: string) => (
    <>
      {fetcher.data && !fetcher.data.ok && (
        <span role="alert" className="font-semibold text-signal">
          {fetcher.data.problems?.[0]?.says}
        </span>
      )}
      <Button
        look="main"
        disabled={fetcher.state !== "idle"}
        onClick={() =>
          void fetcher.submit({ do: does, key: key(), list: head.id, version: head.version }, { method: "post" })
        }
      >
        {label}
      </Button>
    </>
  );
  if (head.state === "Written" && releases) return step("release", "Release it");
  if (head.state === "Released" && pays) return step("send", "Hand it to the bank");
  return null;
}

/** What happens next, the transfer that is looked at, and what can be done otherwise. */
export function PayListSlip({ page, line }: { page: Page; line: PayLine | undefined }) {
  const { head, pays } = page;
  const open = head.state === "Written" || head.state === "Released";
  return (
    <>
      <WhatNext page={page} />
      {line && <TransferPart page={page} line={line} />}
      {pays && (head.state === "Released" || head.state === "With the bank") && (
        <SlipForm<PayListWord>
          does="report"
          fields={{ list: head.id }}
          label="Take over the bank’s report"
          send="Take it over"
        >
          <FileEntry label="Payment status report, ISO 20022 pain.002" name="file" accept=".xml" />
        </SlipForm>
      )}
      {pays && open && (
        <SlipForm<PayListWord>
          does="drop"
          fields={{ list: head.id, version: head.version }}
          label="Drop this list"
          send="Drop it"
        >
          <p className="text-xs text-ink-2">Nothing of it is paid; all of it can be proposed again.</p>
        </SlipForm>
      )}
    </>
  );
}

function WhatNext({ page: { head, releaseFrom, releases } }: { page: Page }) {
  const w = useWriting();
  const words: Record<typeof head.state, string> = {
    Written: releases
      ? "It waits to be released. Look at each transfer and its account first."
      : head.home > releaseFrom
        ? `It comes to more than ${w.amount(releaseFrom)}: somebody else than ${head.writerName} releases it.`
        : "It waits to be released by accounts or a lead.",
    Released: "Hand it to the bank, or load its file and say by hand what the bank did.",
    "With the bank": `The bank has it since ${head.sent ? w.moment(head.sent) : ""}, and pays on ${w.day(head.day)}.`,
    Answered: "The bank answered every transfer.",
    Dropped: "It was dropped: nothing of it was paid.",
  };
  return (
    <>
      <SlipHead over={head.number} title={head.state} />
      <p className="text-xs text-ink-2">{words[head.state]}</p>
      {head.released && (
        <p className="text-xs">
          <a className="underline" href={`/pay-lists/${head.id}/bank.xml`}>
            The bank’s file, ISO 20022
          </a>
        </p>
      )}
    </>
  );
}

function TransferPart({ page: { head, pays }, line }: { page: Page; line: PayLine }) {
  const w = useWriting();
  const fields = { list: head.id, version: head.version, line: line.id };
  return (
    <SlipPart title={`${w.amount(line.total, line.currency)} to ${line.name}`}>
      <p className="code">
        {ibanText(line.iban)} {line.bic}
      </p>
      <table className="mt-1 w-full text-xs">
        <caption className="sr-only">Papers of this transfer</caption>
        <tbody>
          {line.parts.map((p) => (
            <tr key={p.payable} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                <Link
                  className="underline"
                  to={p.invoice === null ? `/statements/${p.statement}` : `/settle/${p.invoice}`}
                >
                  {p.number}
                </Link>
              </th>
              <td className="px-2 text-ink-2">
                {p.discount ? `less ${w.amount(p.discount, line.currency)}` : `due ${w.day(p.due, false)}`}
              </td>
              <td className="figure text-right">{w.amount(p.minor, line.currency)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {line.payment && <p className="mt-1 text-xs text-ink-2">Paid as {line.payment}.</p>}
      {line.why && <p className="mt-1 text-xs text-signal">Rejected: {line.why}. It is owed again.</p>}
      {pays && line.state === "Listed" && head.state === "Written" && (
        <SlipForm<PayListWord> key={line.id} does="leave out" fields={fields} label="Leave it out" send="Leave it out">
          <p className="text-xs text-ink-2">It can be proposed again.</p>
        </SlipForm>
      )}
      {pays && line.state === "Listed" && (head.state === "Released" || head.state === "With the bank") && (
        <SlipForm<PayListWord>
          key={`${line.id} answer`}
          does="answer"
          fields={fields}
          label="Say what the bank did"
          send="The bank did"
        >
          <Field label="It was">
            {(a) => (
              <select {...a} name="how" className="entry">
                <option value="executed">executed</option>
                <option value="rejected">rejected</option>
              </select>
            )}
          </Field>
          <Field label="On">{(a) => <DayEntry {...a} name="day" defaultValue={w.today} max={w.today} />}</Field>
          <TextField label="Why, where it was rejected" name="why" maxLength={200} />
        </SlipForm>
      )}
    </SlipPart>
  );
}
