import { CaretLeft } from "@phosphor-icons/react/dist/csr/CaretLeft";
import { CaretRight } from "@phosphor-icons/react/dist/csr/CaretRight";
import { DayPicker } from "react-day-picker";
import type { Day } from "../../core/calendar/day";
import { toDay } from "../../core/calendar/day";

/** Days are calendar days: the picker counts in the browser's zone, and only its year, month and date are taken. */
const toDate = (day: string) =>
  new Date(Number(day.slice(0, 4)), Number(day.slice(5, 7)) - 1, Number(day.slice(8, 10)));
const two = (n: number) => String(n).padStart(2, "0");
const fromDate = (d: Date) => toDay(`${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`);

/** Weeks begin on Monday, but where people count from Sunday. */
const firstDay = (locale: string): 0 | 1 => (/-(US|CA|JP|IL|BR|MX|IN)$/.test(locale) ? 0 : 1);

const Chevron = ({ orientation }: { orientation?: string }) =>
  orientation === "left" ? <CaretLeft size={14} /> : <CaretRight size={14} />;

/** A month to pick a day from, in the person's language. */
export default function Month({
  day,
  today,
  locale,
  min,
  max,
  onDay,
}: {
  day: string | null;
  today: string;
  locale: string;
  min?: string;
  max?: string;
  onDay: (day: Day) => void;
}) {
  const write = (options: Intl.DateTimeFormatOptions) => (d: Date) =>
    new Intl.DateTimeFormat(locale, options).format(d);
  const whole = write({ weekday: "long", day: "numeric", month: "long", year: "numeric" });
  return (
    <DayPicker
      mode="single"
      autoFocus
      required={false}
      selected={day ? toDate(day) : undefined}
      defaultMonth={toDate(day ?? today)}
      today={toDate(today)}
      weekStartsOn={firstDay(locale)}
      startMonth={new Date(2000, 0)}
      endMonth={new Date(2099, 11)}
      disabled={[...(min ? [{ before: toDate(min) }] : []), ...(max ? [{ after: toDate(max) }] : [])]}
      onSelect={(picked) => picked && onDay(fromDate(picked))}
      formatters={{
        formatCaption: write({ month: "long", year: "numeric" }),
        formatWeekdayName: write({ weekday: "short" }),
      }}
      labels={{ labelDayButton: (d) => whole(d), labelNext: () => "next month", labelPrevious: () => "month before" }}
      components={{ Chevron }}
      classNames={{
        root: "relative",
        month_caption: "flex h-7 items-center font-semibold",
        caption_label: "first-letter:uppercase",
        nav: "absolute top-0 right-0 flex gap-1",
        button_previous: "flex h-7 w-7 items-center justify-center border border-rule bg-field",
        button_next: "flex h-7 w-7 items-center justify-center border border-rule bg-field",
        month_grid: "mt-2 border-collapse",
        weekday: "h-6 w-9 text-center text-2xs font-normal text-ink-3",
        day: "p-0 text-center",
        day_button: "h-9 w-9 font-mono text-sm hover:bg-here disabled:text-ink-3 disabled:line-through",
        today: "underline decoration-2 underline-offset-4",
        selected: "bg-ink text-sheet [&>button]:hover:bg-ink",
        outside: "text-ink-3",
      }}
    />
  );
}
