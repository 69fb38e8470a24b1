import { noteRound } from "../../../server/acts/needs/note-needs";
import { kept } from "../../web/page";

export const action = kept("walk the floor", (desk, input) => noteRound(desk, input));
