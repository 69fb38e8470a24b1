import {
  addStandingText,
  dropLogo,
  dropStandingText,
  keepLogo,
  keepPaper,
} from "../../../server/acts/papers/keep-papers";
import { type PageActs, withSent } from "../../web/page";

/** What the page of papers and letters does. */
export const paperActs = {
  keep: (desk, input) =>
    keepPaper(desk, { ...input, columns: input["columns[]"] ?? [], prices: input.prices === "yes" }),
  logo: withSent("logo", "Choose a picture.", (desk, logo) => keepLogo(desk, logo.bytes)),
  "no logo": dropLogo,
  "add text": addStandingText,
  "drop text": dropStandingText,
} satisfies PageActs;
export type PaperWord = keyof typeof paperActs;
