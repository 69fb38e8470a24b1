import { dropView, keepView, mailView, shareView } from "../../server/acts/views/keep-view";
import type { PageActs } from "./page";

/** Ways to look at a sheet, kept under a name. */
export const viewActs = (sheet: string) =>
  ({
    "keep view": (desk, input) => keepView(desk, { ...input, sheet }),
    "drop view": dropView,
    "share view": shareView,
    "mail view": mailView,
  }) satisfies PageActs;
export type ViewWord = keyof ReturnType<typeof viewActs>;
