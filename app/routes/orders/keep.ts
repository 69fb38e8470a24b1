import { checked, done, refuse } from "../../../server/acts/desk";
import { addFileLines } from "../../../server/acts/orders/add-file-lines";
import { addLines } from "../../../server/acts/orders/add-lines";
import { changeOrder } from "../../../server/acts/orders/change-order";
import { dropLines, sequenceLines } from "../../../server/acts/orders/drop-lines";
import { HowNumbersAre } from "../../../server/acts/orders/lines-from-file";
import type { OrderNow } from "../../../server/acts/orders/price-order";
import { fillIn } from "../../../server/acts/orders/start-order";
import { readInWorker } from "../../../server/jobs/loads";
import { readDraftPart } from "../../../server/queries/orders/draft";
import { idOf, kept } from "../../web/page";
import { Upload } from "../../web/sent";

/** What is typed in a draft, and what is done to its lines: kept, and answered with what changed by it. */
export const action = kept("write orders", async (desk, input, { params }) => {
  const order = idOf(params.id);
  const all = { ...input, order };
  const answered = (lines: readonly number[] | "all", version: number, now?: OrderNow) =>
    done({ version, ...readDraftPart(desk.db, order, lines, desk.day, now) });
  switch (input.do) {
    case "add": {
      const added = addLines(desk, all);
      return added.ok ? answered("all", added.value.version) : added;
    }
    case "file": {
      const { file } = input;
      if (!(file instanceof Upload)) return refuse("file", "Choose a file.");
      const how = checked(HowNumbersAre, input.mark);
      if (!how.ok) return refuse("mark", how.problems[0]!.says);
      const lines = await readInWorker("lines", { bytes: file.bytes, how: how.value });
      if ("says" in lines) return refuse("file", lines.says);
      if (!lines.ok) return lines;
      const added = addFileLines(desk, { order, version: Number(input.version) }, lines.value);
      return added.ok ? answered("all", added.value.version) : added;
    }
    case "drop": {
      const dropped = dropLines(desk, all);
      return dropped.ok ? answered("all", Number(input.version) + 1) : dropped;
    }
    case "sequence": {
      const sequenced = sequenceLines(desk, all);
      return sequenced.ok ? answered("all", sequenced.value.version) : sequenced;
    }
    case "fill in": {
      const filled = fillIn(desk, all);
      return filled.ok ? answered("all", filled.value.version) : filled;
    }
    default: {
      let now: OrderNow | undefined;
      const changed = changeOrder(desk, all, (standing) => {
        now = standing;
      });
      return changed.ok ? answered(changed.value.lines, changed.value.version, now) : changed;
    }
  }
});
