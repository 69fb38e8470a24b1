import { ButtonLink } from "../../ui/button";
import { RecordForm } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";

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
        <RecordForm does="import" send="Take it as a draft" saved="Taken as a draft." className="mt-3">
          {(problem) => (
            <label className="flex flex-col gap-1">
              <span className="text-xs font-semibold text-ink-2">A file of rules</span>
              <input type="file" name="file" accept="application/json,.json" />
              {problem("file") && <span className="text-xs font-semibold text-signal">{problem("file")}</span>}
            </label>
          )}
        </RecordForm>
      )}
    </SlipPart>
  );
}
