import { toBuy } from "../needs/reorder";
import { moneyText } from "../numbers/money";
import { sourceWords } from "../pricing/price";
import { amount, figureText, percent, price, quantity, type Step, type Sum, words } from "../sums/sum";
import type { PlacedRow } from "./problem";
import { type Landed, perStockUnit } from "./reckon";

/** How the landed price of a choice came about: from what is wanted to what one stock unit costs on the shelf. */
export function landedSum(row: PlacedRow, l: Landed, home: string): Sum {
  const { offer, level, net, home: atHome } = l.line;
  const { packing } = offer;
  const { terms } = l.order;
  const steps: Step[] = [
    { op: "", label: "wanted", figure: quantity(row.wanted, row.stockUnit) },
    ...toBuy(row.wanted, packing, row.stockUnit).steps,
  ];
  const least = toBuy(row.wanted, packing, row.stockUnit).buy;
  if (l.buy !== least)
    steps.push({
      op: "→",
      label: l.buy > least ? "more, ahead of the need" : "its part of a split",
      figure: quantity(l.buy, packing.unit),
    });
  if (l.covers > row.wanted)
    steps.push({
      op: "·",
      label: "more than wanted, for the shelf",
      figure: quantity(l.covers - row.wanted, row.stockUnit),
    });
  if (level === null) {
    steps.push({ op: "·", label: "no price for so little", figure: words("none") });
    return { title: `At ${terms.name}`, steps };
  }
  const at = offer.levels[level]!;
  steps.push({ op: "×", label: sourceWords(at.source), figure: price(at.price, terms.currency, packing.unit) });
  const beside =
    l.order.lines.filter((x) => x.row.item === row.item).length +
    l.order.before.filter((x) => x.row.item === row.item).length;
  if (beside > 1)
    steps.push({
      op: "·",
      label: "the break counts all lines of the item on the order",
      figure: words(`${beside} lines`),
    });
  if (offer.standing) {
    const label = `less their standing discount of ${figureText(percent(offer.standing))}`;
    steps.push({ op: "×", label, figure: percent(10_000 - offer.standing) });
  }
  steps.push({ op: "=", label: "the line", figure: amount(net ?? 0, terms.currency) });
  if (terms.currency !== home) {
    if (terms.rate === null || atHome === null) {
      steps.push({ op: "·", label: `no rate is known for ${terms.currency}`, figure: words("none") });
      return { title: `At ${terms.name}`, steps };
    }
    steps.push({
      op: "×",
      label: `the day’s rate, ${home} for 1 ${terms.currency}`,
      figure: price(terms.rate, home, terms.currency),
    });
    steps.push({ op: "=", label: "in home currency", figure: amount(atHome, home) });
  }
  const freight = `${moneyText({ minor: l.order.freight, currency: terms.currency })} ${terms.currency}`;
  steps.push({
    op: "+",
    label:
      l.order.freight === 0
        ? terms.freight > 0
          ? "freight: carried free"
          : "freight: none"
        : `its part of the freight, ${freight}`,
    figure: amount(l.freightHome, home),
  });
  steps.push({ op: "=", label: "landed", figure: amount(l.landed ?? 0, home) });
  const each = perStockUnit(l, home);
  if (each !== null) {
    steps.push({ op: "÷", label: "on the shelf", figure: quantity(l.covers, row.stockUnit) });
    steps.push({ op: "→", label: "for one, rounded", figure: price(each, home, row.stockUnit) });
  }
  return { title: `At ${terms.name}`, steps };
}

/** What the next break would ask: so much more, at which price. Null at the last one. */
export function nextBreak(l: Landed): { more: number; price: number } | null {
  const next = l.line.offer.levels.find((x) => !x.blanket && x.from > l.buy);
  return next ? { more: next.from - l.buy, price: next.price } : null;
}
