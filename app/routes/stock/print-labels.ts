import { z } from "zod";
import { MOST_LABELS } from "../../../core/stock/label";
import { checked } from "../../../server/acts/desk";
import { Id, Whole } from "../../../server/acts/fields";
import { labelsInParts, lookAtLabel } from "../../../server/jobs/labels";
import { readLabelLayout } from "../../../server/queries/stock/label-layouts";
import { readLabels } from "../../../server/queries/stock/labels";
import { answered } from "../../web/page";
import { kindsOf, labelSource, mayPrint } from "./label-source";

const Print = z.object({
  /** The address part that says of what: "receipt=12". */
  source: z.string().max(300),
  layout: Id,
  /** How many of each label, by its key. */
  copies: z.record(z.string().max(60), Whole(0, MOST_LABELS)),
  skip: Whole(0, 1_199).default(0),
  /** Only the first label, to be looked at. */
  look: z.boolean().default(false),
});

const refused = (field: string, says: string) => Response.json({ problems: [{ field, says }] }, { status: 422 });

/** Labels as PDF, drawn in a worker: as lines of JSON that say how far it is, or the one that is looked at by itself. */
export const action = answered("print labels", async ({ db, person, day }, raw) => {
  const input = checked(Print, raw);
  if (!input.ok) return Response.json({ problems: input.problems }, { status: 422 });
  const source = labelSource(new URLSearchParams(input.value.source));
  if (!source) return refused("", "Say what the labels are of.");
  mayPrint(db, person, source);
  const layout = readLabelLayout(db, input.value.layout);
  if (!layout || !kindsOf(source).includes(layout.layout.kind)) return refused("layout", "Choose a layout.");
  const rows = readLabels(db, source, layout.layout.kind);
  if (input.value.look) {
    const [first] = rows;
    return first ? lookAtLabel(layout.layout, first.goods, day) : refused("", "There is nothing to print labels of.");
  }
  const goods = rows.map((r) => ({ of: r.goods, copies: input.value.copies[r.key] ?? 0 })).filter((g) => g.copies > 0);
  const all = goods.reduce((a, g) => a + g.copies, 0);
  if (all === 0) return refused("", "No label is to be printed: say how many.");
  if (all > MOST_LABELS)
    return refused(
      "",
      `At most ${MOST_LABELS.toLocaleString("en")} labels at once, and these are ${all.toLocaleString("en")}.`,
    );
  return new Response(labelsInParts({ layout: layout.layout, goods, skip: input.value.skip, day }, all), {
    headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store" },
  });
});
