/** An hour of the day as HH:MM, from what a person typed: 7, 730, 7:30, 7.30, 7 pm. Null for what is none. */
export function typedHour(text: string): string | null {
  const found = /^(\d{1,2})(?:[:.h ]?(\d{2}))?\s*(am|pm)?$/i.exec(text.trim());
  if (!found) return null;
  const [, hours, minutes = "00", half] = found;
  let h = Number(hours);
  if (half) {
    if (h < 1 || h > 12) return null;
    h = (h % 12) + (half.toLowerCase() === "pm" ? 12 : 0);
  }
  if (h > 24 || Number(minutes) > 59 || (h === 24 && minutes !== "00")) return null;
  return `${String(h).padStart(2, "0")}:${minutes}`;
}

/** As a field shows it: without the leading nought. */
export const hourInField = (hour: string): string => hour.replace(/^0(?=\d:)/, "");
