import { SlipForm } from "../../parts/slip-form";
import { Field } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { RecordForm } from "../../ui/form";
import type { PaperWord } from "./paper-acts";

/** The company's own sign at the head of every paper. */
export function Letterhead({ logo }: { logo: number | null }) {
  return (
    <section aria-labelledby="letterhead" className="border-t border-rule px-4.5 py-3">
      <h2 id="letterhead" className="text-lg font-bold">
        Letterhead
      </h2>
      <p className="mb-2 text-xs text-ink-2">
        {logo ? "Your logo stands at the head of all papers." : "Without a logo, papers bear a small tally mark."} Name,
        address and tax number are the company’s.
      </p>
      <RecordForm<PaperWord>
        does="logo"
        send={logo ? "Change the logo" : "Put the logo on"}
        saved="It is on all papers now."
      >
        {(at) => (
          <Field label="A PNG or JPEG picture, at most 1 MB" problem={at("logo")}>
            {(a) => (
              <FileEntry {...a} label="A PNG or JPEG picture, at most 1 MB" name="logo" accept=".png,.jpg,.jpeg" />
            )}
          </Field>
        )}
      </RecordForm>
      {logo !== null && (
        <SlipForm<PaperWord> does="no logo" fields={{}} label="Take the logo off…" send="Take it off">
          <p className="text-xs text-ink-2">New papers go out without it; those that left the house keep it.</p>
        </SlipForm>
      )}
    </section>
  );
}
