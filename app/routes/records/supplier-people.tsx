import { useState } from "react";
import { useSubmit } from "react-router";
import type { SupplierRecord } from "../../../server/queries/records/supplier";
import { SlipPart } from "../../ui/frame-parts";
import { newKey } from "../../ui/submission";
import type { SupplierWord } from "./supplier-acts";
import { ContactForm } from "./supplier-forms";

/** Whom we write to there, and what each of them gets. */
export function SupplierPeople({ supplier: s, mayKeep }: { supplier: SupplierRecord; mayKeep: boolean }) {
  const submit = useSubmit();
  const [editing, setEditing] = useState<number | "new" | null>(null);
  return (
    <SlipPart title="People">
      <ul className="border border-rule bg-sheet">
        {s.people.map((c) => (
          <li key={c.id} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
            <div className="flex items-baseline gap-2">
              <span className="min-w-0 flex-1">
                <b className="font-semibold">{c.name || c.mail}</b>
                <span className="block truncate text-xs text-ink-2">
                  {[c.title, c.name ? c.mail : "", c.phone].filter(Boolean).join(" · ")}
                </span>
                <span className="block text-2xs text-ink-3">
                  {[c.forOrders && "orders", c.forQuotes && "prices", c.forInvoices && "invoices"]
                    .filter(Boolean)
                    .join(", ") || "gets nothing"}
                </span>
              </span>
              {mayKeep && (
                <>
                  <button
                    type="button"
                    className="text-xs underline"
                    aria-label={`Change ${c.name || c.mail}`}
                    onClick={() => setEditing(editing === c.id ? null : c.id)}
                  >
                    Change
                  </button>
                  <button
                    type="button"
                    className="text-xs underline"
                    aria-label={`Take off ${c.name || c.mail}`}
                    onClick={() =>
                      submit(
                        { do: "drop contact" satisfies SupplierWord, contact: String(c.id), key: newKey() },
                        { method: "post" },
                      )
                    }
                  >
                    Take off
                  </button>
                </>
              )}
            </div>
            {editing === c.id && <ContactForm supplier={s.id} contact={c} />}
          </li>
        ))}
        {s.people.length === 0 && <li className="px-2.5 py-1 font-semibold text-signal">No address for orders yet.</li>}
      </ul>
      {mayKeep &&
        (editing === "new" ? (
          <ContactForm key={s.people.length} supplier={s.id} />
        ) : (
          <button type="button" className="mt-1 text-xs underline" onClick={() => setEditing("new")}>
            Add somebody
          </button>
        ))}
    </SlipPart>
  );
}
