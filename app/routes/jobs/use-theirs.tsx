import { useState } from "react";
import { unitWords } from "../../../core/text";
import type { ForJob } from "../../../server/queries/consigned/for-job";
import { SlipForm } from "../../parts/slip-form";
import { UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { JobWord } from "./job-acts";

const keyOf = (t: ForJob) => `${t.store}/${t.item}`;

/** Goods of suppliers on our shelves, used for this job as they are taken: order, receipt and issue write themselves. */
export function UseTheirs({ theirs }: { theirs: readonly ForJob[] }) {
  const w = useWriting();
  const [at, setAt] = useState(keyOf(theirs[0]!));
  const here = theirs.find((t) => keyOf(t) === at) ?? theirs[0]!;
  return (
    <SlipPart title="Suppliers’ goods on our shelves">
      <SlipForm<JobWord> does="use" fields={{}} label="Use some of them for this job" send="Use it">
        <SelectField
          label="What"
          name="goods"
          value={keyOf(here)}
          onChange={(e) => setAt(e.target.value)}
          options={theirs.map((t) => ({
            value: keyOf(t),
            label: `${t.name}, ${t.storeName}: ${w.quantity(t.here)} ${unitWords(t.here, t.unit)}${t.wanted > 0 ? `, ${w.quantity(t.wanted)} wanted` : ""}`,
          }))}
        />
        <UnitField label="How much" name="quantity" unit={here.unit} />
      </SlipForm>
    </SlipPart>
  );
}
