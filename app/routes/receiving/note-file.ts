import { type Done, done, refuse } from "../../../server/acts/desk";
import { announceByFile } from "../../../server/acts/receiving/announce-load";
import { noteFromFile } from "../../../server/acts/receiving/note-from-file";
import { theCompany } from "../../../server/queries/company";
import { readAnnounced } from "../../../server/queries/receiving/announced";
import { readCountSheet } from "../../../server/queries/receiving/dock";
import { atOf, idOf, kept } from "../../web/page";
import { Upload } from "../../web/sent";

/** What a file says of a load: parts to be counted, and what of it is not on the order. */
export interface NoteAnswer {
  parts: { line: number; count: string; lot: string; expires: string }[];
  strangers: string[];
  /** The despatch advice as which it is kept now; null for a plain delivery note. */
  announced: string | null;
}

/** A delivery note as CSV or workbook, or a despatch advice as XML, held against one load: nothing is taken in by it. */
export const action = kept<NoteAnswer>(
  "count in",
  async (desk, input, { params, person, url }): Promise<Done<NoteAnswer>> => {
    const order = idOf(params.id);
    const sheet = readCountSheet(desk.db, order, person.store ?? atOf(url, "store"));
    if (!sheet) return refuse("file", "This order is not expected on the dock.");
    if (sheet.blind) return refuse("file", "This store counts blind: what came is counted, not read.");
    const { file } = input;
    if (!(file instanceof Upload)) return refuse("file", "Choose the file.");
    if (/\.xml$/i.test(file.name)) {
      const kept = announceByFile(desk, file.bytes, order);
      if (!kept.ok) return kept;
      const [load] = kept.value.loads;
      const found = readAnnounced(desk.db, order, sheet.store).find((a) => a.id === load?.announced);
      return done({ parts: [], strangers: [], announced: found?.number ?? null });
    }
    const { locale } = theCompany(desk.db);
    const read = await noteFromFile(file.bytes, sheet.lines, { today: desk.day, locale });
    return read.ok ? done({ ...read.value, announced: null }) : read;
  },
);
