import { useEffect } from "react";
import { Link, useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { passesWords, SETTLES_WORDS } from "../../../core/consigned/agreement";
import { may } from "../../../core/people/roles";
import { readAgreementHead, readAgreementItems, versionsOf } from "../../../server/queries/consigned/agreement";
import { readConsigned } from "../../../server/queries/consigned/shelves";
import { readSignings } from "../../../server/queries/signoff/signings";
import { mayActOn } from "../../../server/queries/signoff/waiting";
import { Signatures } from "../../parts/signatures";
import { SlipForm } from "../../parts/slip-form";
import { Button, ButtonLink } from "../../ui/button";
import { FactList } from "../../ui/fact-list";
import { TextField } from "../../ui/field";
import { SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, notFound, page } from "../../web/page";
import { signingActs } from "../signoff/acts";
import { type AgreementWord, agreementActs } from "./agreement-acts";
import { AgreementForm, useAgreementDraft } from "./agreement-form";

export const loader = page("see agreements", ({ db, params, person, day }) => {
  const id = idOf(params.id);
  const head = readAgreementHead(db, id);
  if (!head) throw notFound("There is no such agreement.");
  return {
    head,
    items: readAgreementItems(db, id),
    signings: readSignings(db, "agreement", id),
    here: head.revision > 0 ? readConsigned(db, day, { agreement: id }).filter((r) => r.here > 0).length : 0,
    versions: versionsOf(db, id),
    writes: may(person.roles, "write orders"),
    mine: head.writer === person.id,
    signs: mayActOn(db, "agreement", id, person, day),
    ladders: may(person.roles, "see ladders"),
  };
});

export const action = actions("see agreements", { ...agreementActs, ...signingActs }, ({ params }) => ({
  agreement: idOf(params.id),
}));

export default function AgreementPage() {
  const { head } = useLoaderData<typeof loader>();
  return <Agreement key={`${head.id} ${head.version}`} />;
}

/** An agreement about a supplier's goods: written, signed, as it holds, and what became of it. */
function Agreement() {
  const { head: a, items, writes, here, signs } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const navigate = useNavigate();
  const busy = useBusy();
  const key = useSubmissionKey(a);
  const draft = useAgreementDraft(a, items, answer);
  const drafting = writes && a.state === "Draft";
  const problem = answer && !answer.ok ? answer.problems.find((p) => p.field === "" || p.field === "items") : null;
  const value = answer?.ok ? (answer.value as { agreement?: number; dropped?: boolean }) : null; // of one of its acts
  const began = value?.agreement !== undefined && value.agreement !== a.id ? value.agreement : null;
  const dropped = value?.dropped === true;
  useEffect(() => {
    if (began !== null) void navigate(`/agreements/${began}`);
    if (dropped) void navigate("/agreements");
  }, [began, dropped, navigate]);
  const send = (word: AgreementWord) =>
    void submit({ do: word, agreement: a.id, version: a.version, key: `${key()}${word}` }, { method: "post" });
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-6">
          <SheetHead
            title={`${a.supplierName} at ${a.storeName}`}
            sub={a.changes ? `${a.name}, a change of another` : a.name}
          >
            <StateSquare state={a.state} />
          </SheetHead>
          {a.sentBack && <p className="mx-4.5 mb-3 border-l-4 border-signal px-3">Sent back: {a.sentBack}</p>}
          {drafting ? <AgreementForm draft={draft} currency={a.currency} /> : <Holds />}
        </div>
      }
      slip={<AgreementSlip />}
      tally={
        <TallyLine
          trouble={problem?.says}
          act={
            <>
              {drafting && a.number === null && (
                <Button look="plain" disabled={busy} onClick={() => send("drop")}>
                  Throw it away
                </Button>
              )}
              {drafting && (
                <Button look="main" disabled={busy || draft.changed} onClick={() => send("submit")}>
                  Hand it in
                </Button>
              )}
              {writes && a.state === "Running" && (
                <Button disabled={busy} onClick={() => send("change")}>
                  Change it
                </Button>
              )}
              {signs && (
                <ButtonLink look="main" to="/sign-off">
                  Sign it
                </ButtonLink>
              )}
              {a.revision > 0 && (
                <ButtonLink to={`/consigned?agreement=${a.id}`}>
                  {here > 0 ? "Their shelf" : "Their empty shelf"}
                </ButtonLink>
              )}
            </>
          }
        >
          <span>
            <b>{items.filter((i) => !i.gone).length}</b> items
          </span>
          {drafting && draft.changed && (
            <span className="font-semibold text-signal">keep the draft, then hand it in</span>
          )}
          {here > 0 && <span>goods of {here} of them lie here</span>}
        </TallyLine>
      }
    />
  );
}

/** What holds: terms and items with their prices. */
function Holds() {
  const { head: a, items } = useLoaderData<typeof loader>();
  const w = useWriting();
  const place =
    a.place === "store"
      ? "the whole store"
      : a.place === "bins"
        ? `bins ${a.binsFrom}${a.binsTo ? ` to ${a.binsTo}` : " on"}`
        : "no place";
  return (
    <>
      <div className="max-w-2xl px-4.5 pb-3">
        <FactList
          facts={[
            ["Holds", `${w.day(a.starts)} to ${w.day(a.ended ?? a.ends)}${a.endedWhy ? `: ${a.endedWhy}` : ""}`],
            ["Goods become", passesWords(a.oursAfter)],
            ["Used first", a.first === "theirs" ? "theirs, then ours" : "ours, then theirs"],
            ["Settled", SETTLES_WORDS[a.settles]],
            ["What is lost", a.bears === "us" ? "we pay for it" : "the supplier bears it"],
            ["Kept for them alone", place],
          ]}
        />
        {a.note && <p className="mt-2 whitespace-pre-line text-ink-2">{a.note}</p>}
      </div>
      <table className="w-full">
        <caption className="sr-only">Items</caption>
        <Heads
          heads={[
            { label: "Item" },
            { label: "Least to most", align: "right", width: "w-40" },
            { label: "In packs of", align: "right", width: "w-24" },
            { label: "Refill", align: "right", width: "w-24" },
            { label: `Price, ${a.currency}`, align: "right", width: "w-56" },
          ]}
        />
        <tbody>
          {items.map((i) => (
            <tr key={i.id} className={`h-10 border-b border-rule-2 ${i.gone ? "text-ink-3 line-through" : ""}`}>
              <td className="pl-4.5 leading-tight">
                <Link className="underline decoration-rule" to={`/items/${i.item}`}>
                  {i.name}
                </Link>
                <span className="code block">{i.code}</span>
              </td>
              <td className="figure px-2 text-right">
                {w.quantity(i.least)} – {w.quantity(i.most)}{" "}
                <span className="font-sans text-2xs text-ink-3">{i.unit}</span>
              </td>
              <td className="figure px-2 text-right">{w.quantity(i.pack)}</td>
              <td className="px-2 text-right">{i.refillDays} days</td>
              <td className="figure px-2 pr-4.5 text-right">
                {i.prices.map((p) => (
                  <span key={p.day} className="block">
                    {w.price(p.price, a.currency)}{" "}
                    <span className="font-sans text-2xs text-ink-3">from {w.day(p.day, false)}</span>
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function AgreementSlip() {
  const { head: a, signings, versions, writes, mine, here, ladders } = useLoaderData<typeof loader>();
  const w = useWriting();
  const fields = { agreement: a.id, version: a.version };
  return (
    <>
      <SlipHead
        over={a.number ?? "draft"}
        title={a.state === "Ended" ? "It ended" : a.state === "Running" ? "It runs" : a.state}
      >
        <p className="mt-1 text-ink-2">
          Written by {a.writerName}.{" "}
          <a className="underline" href={`/agreements/${a.id}/paper.pdf`}>
            As PDF
          </a>
          {a.revision > 0 && (
            <>
              ,{" "}
              <Link className="underline" to={`/statements?agreement=${a.id}`}>
                its use statements
              </Link>
            </>
          )}
          {a.changes && (
            <>
              ,{" "}
              <Link className="underline" to={`/agreements/${a.changes}`}>
                what holds now
              </Link>
            </>
          )}
        </p>
      </SlipHead>
      {versions.length > 0 && (
        <SlipPart title="Versions">
          <ul className="border border-rule bg-sheet text-xs">
            {versions.map((v) => (
              <li key={v.revision} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
                <p className="flex justify-between gap-3">
                  <b>Version {v.revision}</b>
                  <span>{w.moment(v.at)}</span>
                </p>
                {v.changed.map((c) => (
                  <p key={c} className="text-ink-2">
                    {c}
                  </p>
                ))}
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      <Signatures
        signings={signings}
        writes={mine ? { paper: "agreement", id: a.id, version: a.version } : null}
        opensLadders={ladders}
      />
      {mine && a.state === "In sign-off" && (
        <SlipForm<"take back">
          does="take back"
          fields={{ paper: "agreement", id: a.id, version: a.version }}
          label="Take it back to change it…"
          send="Take it back"
        >
          <p className="text-xs text-ink-2">It is a draft again, and what was signed of it does not hold.</p>
        </SlipForm>
      )}
      {writes && a.state === "Running" && (
        <SlipPart title="Its end">
          <SlipForm<AgreementWord> does="end" fields={fields} label="End it today" send="End it">
            <TextField label="Why" name="reason" maxLength={300} />
            <p className="text-xs text-ink-2">Yesterday is its last day then: what is left is bought or sent back.</p>
          </SlipForm>
        </SlipPart>
      )}
      {writes && a.state === "Ended" && here > 0 && (
        <SlipPart title="What is left on the shelf">
          <SlipForm<AgreementWord> does="buy the rest" fields={fields} label="Buy all of it" send="Buy it">
            <p className="text-xs text-ink-2">
              Order and receipt write themselves, at the last agreed price. To send it back, go to their shelf.
            </p>
          </SlipForm>
        </SlipPart>
      )}
    </>
  );
}
