import { Link } from "react-router";
import type { Sum } from "../../core/sums/sum";
import { useWriting } from "./locale";

/** The worked calculation behind a figure, the way one writes it on paper. */
export function SumSheet({ sum, heading = true }: { sum: Sum; heading?: boolean }) {
  const w = useWriting();
  return (
    <section>
      {heading && <h2 className="mb-1.5 font-sans text-xs font-semibold tracking-normal text-ink-2">{sum.title}</h2>}
      <table className="w-full border border-rule bg-sheet">
        <caption className="sr-only">{sum.title}</caption>
        <tbody>
          {sum.steps.map((step, i) => {
            const { text, unit } = w.figure(step.figure);
            const total = step.op === "=";
            return (
              <tr
                key={i}
                className={
                  total ? "h-6 border-t-[1.5px] border-ink font-semibold" : step.op === "·" ? "h-6 text-ink-3" : "h-6"
                }
              >
                <td className="w-5 py-[2px] pl-2.5 text-center font-mono text-xs">{step.op === "·" ? "" : step.op}</td>
                <th
                  scope="row"
                  className={`${step.href ? "" : "py-[2px]"} pr-2 pl-1 text-left text-xs ${total ? "font-semibold" : "font-normal text-ink-2"}`}
                >
                  {step.href ? (
                    <Link
                      to={step.href}
                      className="inline-block min-h-6 py-[3px] underline decoration-rule underline-offset-2 hover:decoration-ink"
                    >
                      {step.label}
                    </Link>
                  ) : (
                    step.label
                  )}
                </th>
                <td className="figure py-[2px] pr-2.5 text-right whitespace-nowrap">
                  {text}
                  {unit && (
                    <>
                      {" "}
                      <span className="font-sans text-2xs font-normal text-ink-3">{unit}</span>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
