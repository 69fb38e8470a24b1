import type { WeekAhead } from "../../../core/insight/ahead";
import { decimalText } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import type { Db } from "../../db/open";
import { theCompany } from "../company";
import { csvParts, type FileColumn } from "../file-columns";
import type { BudgetAhead, JobAhead, StillToCome, SupplierAhead } from "./ahead";

/** What is still to come as a file: text of a CSV, or rows of names and values (docs/exchange.md). */
export interface AheadFile {
  csv(): string;
  json(): Record<string, string | number>[];
}

const fileOf = <R>(columns: readonly FileColumn<R>[], rows: readonly R[]): AheadFile => ({
  csv: () => [...csvParts(columns, [rows])].join(""),
  json: () => rows.map((r) => Object.fromEntries(columns.map((c) => [c.name, c.cell(r)]))),
});

/** The file of a page; columns of debts are there for whoever sees payables. */
export function aheadFile(db: Db, ahead: StillToCome, pays: boolean): AheadFile {
  const { currency } = theCompany(db);
  const places = exponent(currency);
  const money = <R>(name: string, of: (r: R) => number | null): FileColumn<R> => ({
    name: `${name}_${currency.toLowerCase()}`,
    width: 16,
    as: "money",
    currency: () => currency,
    cell: (r) => {
      const minor = of(r);
      return minor === null ? "" : decimalText(minor, places, places);
    },
  });
  const number = <R>(name: string, of: (r: R) => number): FileColumn<R> => ({ name, width: 9, as: "number", cell: of });
  const text = <R>(name: string, of: (r: R) => string, width = 12): FileColumn<R> => ({ name, width, cell: of });
  const coming = <R extends SupplierAhead | JobAhead | BudgetAhead>(): FileColumn<R>[] => [
    number("parts", (r) => r.parts),
    money("coming", (r) => r.coming),
    money("late_to_7_days", (r) => r.late[0]),
    money("late_to_30_days", (r) => r.late[1]),
    money("late_over_30_days", (r) => r.late[2]),
    money("later_than_asked", (r) => r.moved),
  ];
  switch (ahead.by) {
    case "week":
      return fileOf<WeekAhead>(
        [
          text("from", (r) => r.from ?? ""),
          text("to", (r) => r.until ?? ""),
          money("coming", (r) => r.coming),
          money("later_than_asked", (r) => r.moved),
          ...(pays
            ? [
                money<WeekAhead>("owed", (r) => r.owed),
                money<WeekAhead>("to_bill", (r) => r.toBill),
                money<WeekAhead>("out", (r) => r.out),
              ]
            : []),
        ],
        ahead.rows,
      );
    case "supplier":
      return fileOf<SupplierAhead>(
        [
          text("supplier", (r) => r.label, 32),
          ...coming<SupplierAhead>(),
          number("promises_moved", (r) => r.promises.count),
          number("moved_days", (r) => r.promises.days),
          ...(pays
            ? [money<SupplierAhead>("owed", (r) => r.owed), money<SupplierAhead>("to_bill", (r) => r.toBill)]
            : []),
        ],
        ahead.rows,
      );
    case "job":
      return fileOf<JobAhead>(
        [
          text("job", (r) => r.label, 32),
          text("vessel", (r) => r.vessel, 20),
          text("first_due", (r) => r.firstDue),
          number("lines", (r) => r.open),
          number("short", (r) => r.short),
          text("chance_percent", (r) => (r.chance?.basisPoints == null ? "" : decimalText(r.chance.basisPoints, 2))),
          text("decides", (r) => r.chance?.decides ?? "", 32),
          ...coming<JobAhead>(),
        ],
        ahead.rows,
      );
    case "budget":
      return fileOf<BudgetAhead>(
        [
          text("budget", (r) => r.label, 32),
          text("starts", (r) => r.starts),
          text("ends", (r) => r.ends),
          money("amount", (r) => r.amount),
          money("spent", (r) => r.spent),
          money("asked", (r) => r.asked),
          ...coming<BudgetAhead>(),
          money("left", (r) => r.left),
        ],
        ahead.rows,
      );
  }
}
