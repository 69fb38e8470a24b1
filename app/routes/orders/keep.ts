import type { OrderId } from "../../../core/ids";
import { checked, type Desk, done, refuse } from "../../../server/acts/desk";
import { addFileLines } from "../../../server/acts/orders/add-file-lines";
import { addLines } from "../../../server/acts/orders/add-lines";
import { changeOrder } from "../../../server/acts/orders/change-order";
import { dropLines, sequenceLines } from "../../../server/acts/orders/drop-lines";
import { HowNumbersAre } from "../../../server/acts/orders/lines-from-file";
import type { OrderNow } from "../../../server/acts/orders/price-order";
import { fillIn } from "../../../server/acts/orders/start-order";
import { takeSaid } from "../../../server/acts/suppliers/take-said";
import { readInWorker } from "../../../server/jobs/loads";
import { readDraftPart } from "../../../server/queries/orders/draft";
import { idOf, kept, oneOf, type PageActs } from "../../web/page";
import { type Sent, Upload } from "../../web/sent";

/** What the draft says now, of these lines or of all: the answer to whatever was done to it. */
const answered = (
  desk: Desk,
  { order }: Sent,
  version: number,
  lines: readonly number[] | "all" = "all",
  now?: OrderNow,
) =>
  done({ version, ...readDraftPart(desk.db, Number(order) as OrderId /* checked by the act */, lines, desk.day, now) });

const draftActs = {
  save: (desk, input) => {
    let now: OrderNow | undefined;
    const changed = changeOrder(desk, input, (standing) => {
      now = standing;
    });
    return changed.ok ? answered(desk, input, changed.value.version, changed.value.lines, now) : changed;
  },
  add: (desk, input) => {
    const added = addLines(desk, input);
    return added.ok ? answered(desk, input, added.value.version) : added;
  },
  file: async (desk, input) => {
    const { file } = input;
    if (!(file instanceof Upload)) return refuse("file", "Choose a file.");
    const how = checked(HowNumbersAre, input.mark);
    if (!how.ok) return refuse("mark", how.problems[0]!.says);
    const lines = await readInWorker("lines", { bytes: file.bytes, how: how.value });
    if ("says" in lines) return refuse("file", lines.says);
    if (!lines.ok) return lines;
    const added = addFileLines(desk, { order: input.order, version: Number(input.version) }, lines.value);
    return added.ok ? answered(desk, input, added.value.version) : added;
  },
  drop: (desk, input) => {
    const dropped = dropLines(desk, input);
    return dropped.ok ? answered(desk, input, Number(input.version) + 1) : dropped;
  },
  sequence: (desk, input) => {
    const sequenced = sequenceLines(desk, input);
    return sequenced.ok ? answered(desk, input, sequenced.value.version) : sequenced;
  },
  "take said": (desk, input) => {
    const taken = takeSaid(desk, input);
    return taken.ok ? answered(desk, input, taken.value.version) : taken;
  },
  "fill in": (desk, input) => {
    const filled = fillIn(desk, input);
    return filled.ok ? answered(desk, input, filled.value.version) : filled;
  },
} satisfies PageActs;
export type DraftWord = keyof typeof draftActs;

/** What is typed in a draft, and what is done to its lines: kept, and answered with what changed by it. */
const run = oneOf(draftActs, ({ params }) => ({ order: idOf(params.id) }));
export const action = kept("write orders", (desk, input, visit) =>
  run(desk, { do: "save" satisfies DraftWord, ...input }, visit),
);
