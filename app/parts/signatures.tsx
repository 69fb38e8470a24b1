import { Link } from "react-router";
import type { SeatView, SigningView } from "../../server/queries/signoff/signings";
import { Questions } from "../routes/signoff/questions";
import type { WaitingPaper } from "../routes/signoff/sign-acts";
import { SlipPart } from "../ui/frame-parts";
import { useWriting } from "../ui/locale";
import { SumSheet } from "../ui/sum";

const WORDS: Record<SeatView["state"], string> = {
  later: "after the one before",
  waiting: "waits",
  signed: "signed",
  "sent back": "sent back",
  "not reached": "not reached",
};

/** "1 h 20 min" of working time. */
export const spent = (minutes: number) => {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  if (hours === 0) return `${rest} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${rest} min`;
};

/** Why they had to sign, who did what when, and how long it took: the newest round first. */
export function Signatures({
  signings,
  writes = null,
  opensLadders = false,
}: {
  signings: readonly SigningView[];
  /** The paper, where its writer looks at it. */
  writes?: WaitingPaper | null;
  opensLadders?: boolean;
}) {
  if (signings.length === 0) return null;
  const last = signings.at(-1)!;
  return (
    <div id="sign-off" className="flex flex-col gap-4">
      <Questions questions={last.questions} answers={last.state === "In sign-off" ? writes : null} />
      {last.sum && <SumSheet sum={last.sum} />}
      <SlipPart title="Sign-off">
        <ol className="border border-rule bg-sheet">
          {signings.toReversed().map((s) => (
            <Round key={s.id} signing={s} past={s !== last} opensLadders={opensLadders} />
          ))}
        </ol>
      </SlipPart>
    </div>
  );
}

function Round({ signing: s, past, opensLadders }: { signing: SigningView; past: boolean; opensLadders: boolean }) {
  const w = useWriting();
  return (
    <li className={`border-b border-rule-2 last:border-0 ${past ? "text-ink-3" : ""}`}>
      <p className="flex justify-between gap-3 px-2.5 pt-1.5 text-xs">
        <span>
          {w.moment(s.started)}, {s.carried ? "carried on" : `“${s.ladder}”`}
          {s.rulebook !== null && opensLadders && (
            <>
              {" "}
              <Link to={`/ladders?version=${s.rulebook}`} className="underline">
                rules {s.rulebook}
              </Link>
            </>
          )}
        </span>
        <span className="figure">{w.amount(s.amount)}</span>
      </p>
      {s.seats.length === 0 && (
        <p className="px-2.5 pb-1.5">
          {s.carried ? "Hardly more than was signed, so nobody had to sign again." : "Nobody had to sign."}
        </p>
      )}
      <ul>
        {s.seats.map((seat) => (
          <Seat key={seat.id} seat={seat} past={past} />
        ))}
      </ul>
      {s.reason && <p className="px-2.5 pb-1.5">“{s.reason}”</p>}
    </li>
  );
}

function Seat({ seat, past }: { seat: SeatView; past: boolean }) {
  const w = useWriting();
  const late = seat.state === "waiting" && seat.due !== null && seat.due.slice(0, 10) < w.today;
  const asked = seat.people.filter((p) => p.handedOn === null);
  return (
    <li className="px-2.5 pb-1.5">
      <div className="flex justify-between gap-3">
        <span className="font-semibold">
          {seat.name}
          {seat.each && <span className="font-normal text-ink-3"> all of them</span>}
        </span>
        <span className={(seat.state === "sent back" && !past) || late ? "font-semibold text-signal" : ""}>
          {late ? "late" : WORDS[seat.state]}
        </span>
      </div>
      {seat.signatures.map((g, i) => (
        <p key={i} className="flex justify-between gap-3 text-xs">
          <span>
            {g.person}
            {g.forWhom && ` for ${g.forWhom}`}, {w.moment(g.at)}
          </span>
          <span>after {spent(g.took)}</span>
        </p>
      ))}
      {seat.state === "waiting" && (
        <p className="text-xs">
          asked {asked.map((p) => p.name).join(", ")} {w.moment(seat.asked ?? "")}
          {seat.due && `, to answer by ${w.moment(seat.due)}`}
          {seat.reminded && `; reminded ${w.moment(seat.reminded)}`}
        </p>
      )}
      {seat.people
        .filter((p) => p.handedOn !== null)
        .map((p) => (
          <p key={p.id} className="text-xs text-ink-3">
            {p.name} handed it over {w.moment(p.handedOn!)}
          </p>
        ))}
      {seat.climbed && (
        <p className="text-xs text-ink-3">
          climbed {w.moment(seat.climbed)} to{" "}
          {seat.people
            .filter((p) => p.how === "climbed")
            .map((p) => p.name)
            .join(", ")}
        </p>
      )}
    </li>
  );
}
