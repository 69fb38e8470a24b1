import { Link } from "react-router";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** What became of a requisition: each paper a link, the oldest first. */
export function Trail({ trail }: { trail: { at: string; text: string; detail: string; href: string | null }[] }) {
  const w = useWriting();
  if (trail.length === 0) return null;
  return (
    <SlipPart title="What became of it">
      <ol className="border-l-2 border-ink pl-3">
        {trail.map((t, i) => (
          <li key={i} className="relative pb-2.5 last:pb-0">
            <span aria-hidden="true" className="absolute top-[5px] -left-[17px] size-2 bg-ink" />
            <span className="code block">{t.at ? w.moment(t.at) : ""}</span>
            {t.href ? (
              <Link to={t.href} className="font-semibold underline decoration-rule hover:decoration-ink">
                {t.text}
              </Link>
            ) : (
              <span className="font-semibold">{t.text}</span>
            )}
            <span className="block text-xs text-ink-2">{t.detail}</span>
          </li>
        ))}
      </ol>
    </SlipPart>
  );
}
