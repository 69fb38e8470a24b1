import type { ArrivalLink } from "../../../server/queries/suppliers/arrivals";
import { Button } from "../../ui/button";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** Links with which one's own calendar shows what is expected, made and ended here. */
export function ArrivalLinks({
  links,
  stores,
  made,
  busy,
  onMake,
  onEnd,
}: {
  links: readonly ArrivalLink[];
  stores: readonly { id: number; name: string }[];
  /** The address that was just made: it is shown this once. */
  made: string | null;
  busy: boolean;
  onMake: (store: string) => void;
  onEnd: (link: number) => void;
}) {
  const w = useWriting();
  return (
    <SlipPart title="Arrivals in your calendar">
      {made && (
        <p role="status" className="mb-2 border-l-4 border-ink bg-band px-3 py-2">
          Subscribe to this address; it is shown only now: <b className="break-all select-all">{made}</b>
        </p>
      )}
      {links.length > 0 && (
        <ul className="mb-2 border border-rule bg-sheet">
          {links.map((l) => (
            <li
              key={l.id}
              className="flex items-center justify-between border-b border-rule-2 px-2.5 py-1 last:border-0"
            >
              <span>
                {l.store ?? "All stores"} <span className="text-xs text-ink-3">since {w.moment(l.made)}</span>
              </span>
              <Button
                look="plain"
                disabled={busy}
                aria-label={`End the link for ${l.store ?? "all stores"}`}
                onClick={() => onEnd(l.id)}
              >
                End it
              </Button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          onMake(String(new FormData(e.currentTarget).get("store") ?? ""));
        }}
      >
        <SelectField
          label="Of"
          name="store"
          options={[{ value: "", label: "all stores" }, ...stores.map((s) => ({ value: String(s.id), label: s.name }))]}
        />
        <Button type="submit" disabled={busy}>
          Make a link
        </Button>
      </form>
    </SlipPart>
  );
}
