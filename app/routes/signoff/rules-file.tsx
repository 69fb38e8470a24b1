import { ButtonLink } from "../../ui/button";
import { Field } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { RecordForm } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import type { RulesWord } from "./rules-acts";

/** Rules as a file for other programs, and from one. */
export function RulesFilePart({ version, mayKeep }: { version: number | null; mayKeep: boolean }) {
  return (
    <SlipPart title="As a file">
      <div className="flex flex-wrap gap-2">
        <ButtonLink to={`/ladders.json${version ? `?version=${version}` : ""}`} reload>
          Save as JSON
        </ButtonLink>
        <ButtonLink to="/ladders.schema.json" reload>
          Its schema
        </ButtonLink>
      </div>
      {mayKeep && (
        <RecordForm<RulesWord> does="import" send="Take it as a draft" saved="Taken as a draft." className="mt-3">
          {(problem) => (
            <Field label="A file of rules" problem={problem("file")}>
              {(a) => <FileEntry {...a} label="A file of rules" name="file" accept=".json" />}
            </Field>
          )}
        </RecordForm>
      )}
    </SlipPart>
  );
}
