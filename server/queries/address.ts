import { z } from "zod";
import { parseDay } from "../../core/calendar/day";

/** Parts of an address of a sheet: what is too long or not understood is left out, never a fault. */
const MOST_CHARACTERS = 2_000;
const MOST_VALUES = 200;

export const listed = (text: string | undefined): string[] =>
  text ? text.slice(0, MOST_CHARACTERS).split(",").filter(Boolean).slice(0, MOST_VALUES) : [];
export const AddressList = z.string().optional().transform(listed);
export const AddressDay = z
  .string()
  .optional()
  .transform((d) => (d ? parseDay(d) : null));
