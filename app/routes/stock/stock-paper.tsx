import { Link, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { binWords } from "../../../core/stock/bins";
import { STOCK_PAPER_WORDS } from "../../../core/stock/paper";
import { count } from "../../../core/text";
import { readStockPaper } from "../../../server/queries/stock/stock-papers";
import { ButtonLink } from "../../ui/button";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { idOf, notFound, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";
import { mayOpenPaper } from "./may-open";

export const loader = page("see shelves", ({ db, person, params }) => {
  const found = readStockPaper(db, idOf(params.id));
  if (!found) throw notFound("There is no such paper.");
  mayOpenPaper(person, found.head);
  return { ...found, jobs: may(person.roles, "see jobs") };
});

/** One paper of the stock: what it moved, from where to where, by whom and why. */
export default function StockPaperPage() {
  const { head, lines, jobs } = useLoaderData<typeof loader>();
  const w = useWriting();
  const within = head.kind === "stow" || head.kind === "move";
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SheetHead title={`${STOCK_PAPER_WORDS[head.kind]} ${head.number}`} sub={head.storeName} />
          <FactStrip
            facts={[
              ["By", `${head.person}, ${w.moment(head.at)}`],
              ["For", head.jobName ?? "–"],
              ["Why", head.reason || "–"],
            ]}
          />
          <table className="w-full">
            <caption className="sr-only">What it moved</caption>
            <Heads
              heads={[
                { label: "Goods" },
                { label: "Quantity", align: "right" },
                { label: within || head.kind !== "from job" ? "From bin" : "" },
                { label: within || head.kind === "from job" || head.kind === "count" ? "Into bin" : "" },
              ]}
            />
            <tbody>
              {lines.map((l, i) => (
                <tr key={i} className="h-10 border-b border-rule-2">
                  <td className="py-1 pl-4.5 leading-tight">
                    <Link className="underline decoration-rule" to={`/items/${l.item}`}>
                      {l.name}
                    </Link>
                    <span className="code block">
                      {[l.code, l.lot && `lot ${l.lot}`, l.expires && `keeps until ${w.day(l.expires, false)}`]
                        .filter(Boolean)
                        .join(" · ")}
                    </span>
                  </td>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {head.kind === "count" && l.quantity > 0 ? "+" : ""}
                    {w.quantity(head.kind === "count" ? l.quantity : Math.abs(l.quantity))}{" "}
                    <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                  </td>
                  <td className="px-2 font-mono text-xs">{l.from === null ? "" : binWords(l.from)}</td>
                  <td className="px-2 pr-4.5 font-mono text-xs">{l.to === null ? "" : binWords(l.to)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {lines.length === 0 && <p className="px-4.5 py-4 text-ink-2">All of it was as it should be.</p>}
        </div>
      }
      tally={
        <TallyLine
          act={
            <>
              <ButtonLink to={`/stock-papers/${head.id}/paper.pdf`} reload>
                Paper
              </ButtonLink>
              {head.job !== null && jobs && <ButtonLink to={`/jobs/${head.job}`}>{head.jobName}</ButtonLink>}
              <ButtonLink to={`/shelves?store=${head.store}`} look="main">
                Shelves
              </ButtonLink>
            </>
          }
        >
          <b>{count(lines.length, "line")}</b>
        </TallyLine>
      }
    />
  );
}
