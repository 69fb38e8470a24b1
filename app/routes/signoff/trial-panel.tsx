import { useRef, useState } from "react";
import { Link } from "react-router";
import type { Rules } from "../../../core/signoff/rulebook";
import type { TrialResult } from "../../../core/signoff/trial";
import { amount, type Sum, words } from "../../../core/sums/sum";
import { count } from "../../../core/text";
import { spent } from "../../parts/signatures";
import { answerOf } from "../../ui/answer-of";
import { Button } from "../../ui/button";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { ProgressBar } from "../../ui/progress-bar";
import { newKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { brief } from "./rule-words";

type Said = { done: number; all: number } | { result: TrialResult } | { problem: string };

/** Tries the rules as they are written on what was handed in during the last twelve months. */
export function TrialPanel({ rules }: { rules: Rules }) {
  const [state, setState] = useState<{ of: Rules; said: Said } | null>(null);
  const stop = useRef<AbortController | null>(null);
  const said = state?.said;
  const begin = async () => {
    const control = new AbortController();
    stop.current = control;
    const show = (next: Said) => stop.current === control && setState({ of: rules, said: next });
    show({ done: 0, all: 0 });
    try {
      for await (const next of linesOf(rules, control.signal)) show(next);
    } catch {
      if (control.signal.aborted) setState(null);
      else show({ problem: "The trial was cut off. Try it again." });
    }
  };
  const running = said !== undefined && "done" in said;
  return (
    <SlipPart title="Tried on the last 12 months">
      {running ? (
        <div className="flex items-center gap-3" role="status">
          <ProgressBar className="w-40" done={said.done} of={said.all} label="How far the trial is" />
          {said.all ? `${said.done} of ${said.all}` : "reading…"}
          <Button onClick={() => stop.current?.abort()}>Stop</Button>
        </div>
      ) : (
        <Button onClick={() => void begin()}>{said && "result" in said ? "Try it again" : "Try it"}</Button>
      )}
      {said && "problem" in said && (
        <p role="alert" className="mt-1 font-semibold text-signal">
          {said.problem}
        </p>
      )}
      {said && "result" in said && (
        <div role="status" className="mt-2 flex flex-col gap-3">
          {state!.of !== rules && <p className="text-xs font-semibold">The rules were changed since.</p>}
          <Result result={said.result} />
        </div>
      )}
    </SlipPart>
  );
}

async function* linesOf(rules: Rules, signal: AbortSignal): AsyncGenerator<Said> {
  const response = await fetch("/ladders/try", {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ rules, key: newKey() }),
    signal,
  });
  if (!response.ok || !response.body || !response.headers.get("content-type")?.includes("ndjson")) {
    const answer = await answerOf<{ problems?: { says: string }[] }>(response);
    yield { problem: answer.problems?.map((p) => p.says).join(" ") ?? "This could not be tried." };
    return;
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (rest + part.value).split("\n");
    rest = lines.pop()!;
    for (const line of lines) yield JSON.parse(line) as Said; // written by `tryRules`, a line each
  }
}

const signed = (n: number) => (n > 0 ? `+${n}` : n < 0 ? `−${-n}` : "no difference");

function Result({ result: r }: { result: TrialResult }) {
  const w = useWriting();
  const hours = Math.round((r.minutes.after - r.minutes.before) / 60);
  const sum: Sum = {
    title: "What would be otherwise",
    steps: [
      { op: "", label: "papers that go another way", figure: words(`${r.moved} of ${r.papers}`) },
      { op: "", label: "signatures", figure: words(signed(r.signatures.after - r.signatures.before)) },
      { op: "", label: "working hours waited, all papers", figure: words(signed(hours)) },
      { op: "", label: "more that nobody signs", figure: amount(r.unsigned.after - r.unsigned.before, w.home) },
      { op: "", label: "more that could not be submitted", figure: amount(r.stuck.after - r.stuck.before, w.home) },
    ],
  };
  return (
    <>
      <Bands bands={r.bands} />
      <SumSheet sum={sum} heading={false} />
      <p className="text-xs text-ink-3">
        Hours by how long each person took on average; {spent(r.minutes.before)} before, {spent(r.minutes.after)} after.
      </p>
      <table className="w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">Signatures by person</caption>
        <thead>
          <tr className="text-ink-2">
            <th scope="col" className="px-2.5 py-1 text-left font-semibold">
              Asked to sign
            </th>
            <th scope="col" className="px-2 text-right font-semibold">
              before
            </th>
            <th scope="col" className="px-2.5 text-right font-semibold">
              after
            </th>
          </tr>
        </thead>
        <tbody>
          {r.people.map((p) => (
            <tr key={p.person} className="border-t border-rule-2">
              <td className="px-2.5 py-1">{p.name}</td>
              <td className="figure px-2 text-right">{p.before}</td>
              <td className="figure px-2.5 text-right">{p.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {r.unreached.map((u) => (
        <p key={u.ladder}>
          <b>Never reached:</b> none of the {count(u.papers, "paper")} of “{u.ladder}” passed {brief(w.amount(u.above))}
          .
        </p>
      ))}
      {r.shown.length > 0 && (
        <details>
          <summary className="min-h-6 font-semibold">
            Open {r.shown.length < r.moved ? `the ${r.shown.length} dearest of ${r.moved}` : count(r.moved, "paper")}
          </summary>
          <ul className="mt-1 max-h-96 overflow-y-auto border border-rule bg-sheet">
            {r.shown.map((m) => (
              <li key={m.href} className="border-b border-rule-2 px-2.5 py-1 leading-tight last:border-0">
                <span className="flex justify-between gap-3">
                  <Link to={m.href} className="underline">
                    {m.paper} {m.number}
                  </Link>
                  <span className="figure">{w.money(m.minor)}</span>
                </span>
                <span className="text-xs">
                  <s className="text-ink-3">{m.before}</s> {m.after}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** How many papers of each size stay, go another way, or need nobody; amounts grow tenfold every four bars. */
function Bands({ bands }: { bands: TrialResult["bands"] }) {
  const w = useWriting();
  const W = 356;
  const H = 96;
  const most = Math.max(1, ...bands.map((b) => b.same + b.moved + b.nobody));
  const step = (n: number) => Math.round(Math.log10(Math.max(1, n)) * 4);
  const low = step(bands.find((b) => b.from > 0)?.from ?? 1);
  const high = Math.max(low, step(bands.at(-1)?.from ?? 1));
  const width = W / (high - low + 1);
  const moved = bands.reduce((a, b) => a + b.moved, 0);
  return (
    <svg
      viewBox={`0 0 ${W} ${H + 16}`}
      role="img"
      aria-label={`${moved} papers go another way, by amount`}
      className="w-full shrink-0 text-[10.5px]"
    >
      <defs>
        <pattern id="moved" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--color-sheet)" />
          <rect width="2" height="5" fill="var(--color-ink)" />
        </pattern>
      </defs>
      {bands
        .filter((b) => b.from > 0)
        .map((b) => {
          const x = (step(b.from) - low) * width + 1;
          let top = H;
          const bar = (n: number, fill: string) => {
            const h = (n / most) * (H - 6);
            top -= h;
            return n > 0 && <rect x={x} y={top} width={Math.max(1, width - 2)} height={h} fill={fill} />;
          };
          return (
            <g key={b.from}>
              {bar(b.nobody, "var(--color-rule)")}
              {bar(b.same, "var(--color-harbour)")}
              {bar(b.moved, "url(#moved)")}
              {step(b.from) % 4 === 0 && (
                <text x={x} y={H + 12} fill="var(--color-ink-3)">
                  {brief(w.money(b.from))}
                </text>
              )}
            </g>
          );
        })}
      <path d={`M0 ${H}H${W}`} stroke="var(--color-ink)" strokeWidth="1.5" />
    </svg>
  );
}
