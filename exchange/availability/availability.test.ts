import { describe, expect, it } from "vitest";
import { toDay } from "../../core/calendar/day";
import { ONE, purchase } from "../../core/numbers/quantity";
import { availabilitySchema, readReply, writeRequest } from "./availability";

const today = toDay("2026-11-24");
const asked = writeRequest(
  [
    {
      line: "7",
      theirCode: "TT-46",
      code: "OIL",
      quantity: purchase(25_000),
      unit: "XDR",
      wanted: toDay("2026-12-01"),
    },
    { line: "8", theirCode: "TT-R48", code: "ROP", quantity: purchase(ONE), unit: "XCL", wanted: toDay("2026-12-01") },
  ],
  { currency: "EUR", deliverTo: { name: "Kelpholm Ferries", address: "Gate 2" } },
);
const line = (more: object = {}) => ({
  line: "7",
  status: "offered",
  price: "655.5",
  stock: [{ depot: "K", onHand: "4", arrivesOn: "2026-11-26", more: [{ quantity: "2.5", arrivesOn: "2026-12-03" }] }],
  ...more,
});
const reply = (lines: object[], more: object = {}) => ({
  format: "wharf-tally/availability-reply/1",
  currency: "EUR",
  depots: [{ depot: "K", name: "Kelpholm depot" }],
  lines,
  ...more,
});
const read = (body: unknown) => readReply(typeof body === "string" ? body : JSON.stringify(body), asked, today);
const ofLine = (body: object) => {
  const found = read(body);
  return found.ok ? found.reply.lines[0] : found.says;
};
const says = (body: unknown) => {
  const found = read(body);
  return found.ok ? found.reply.lines.map((l) => (l.ok ? "stands" : l.says)) : found.says;
};

describe("asking what a supplier has", () => {
  it("asks in decimal texts, by their code and ours", () => {
    expect(asked).toEqual({
      format: "wharf-tally/availability-request/1",
      currency: "EUR",
      deliverTo: { name: "Kelpholm Ferries", address: "Gate 2" },
      lines: [
        { line: "7", item: "TT-46", ourItem: "OIL", quantity: "2.5", unit: "XDR", wantedOn: "2026-12-01" },
        { line: "8", item: "TT-R48", ourItem: "ROP", quantity: "1", unit: "XCL", wantedOn: "2026-12-01" },
      ],
    });
  });

  it("reads stock by depot and the price, exactly; a line that nobody asked about is passed over", () => {
    const found = read(reply([line(), { line: "99", status: "unknown" }], { pricesHoldUntil: "2026-12-05", extra: 1 }));
    expect(found).toEqual({
      ok: true,
      reply: {
        until: "2026-12-05",
        lines: [
          {
            line: "7",
            ok: true,
            price: 655_500_000,
            depots: [
              {
                depot: "Kelpholm depot",
                onHand: 40_000,
                arrives: "2026-11-26",
                more: [{ quantity: 25_000, arrives: "2026-12-03" }],
              },
            ],
          },
          { line: "8", ok: false, says: "They say nothing about it." },
        ],
      },
    });
    expect(ofLine(reply([line({ price: undefined, stock: undefined })]))).toEqual({
      line: "7",
      ok: true,
      price: null,
      depots: [],
    });
  });

  it("says of a line what cannot be meant, and lets the others stand", () => {
    const other = { line: "8", status: "offered", price: "1298" };
    const stock = (s: object) => [{ depot: "K", onHand: "4", ...s }];
    expect(says(reply([line({ stock: stock({ depot: "X9" }) }), other]))).toEqual([
      "They name a depot, X9, that they do not describe.",
      "stands",
    ]);
    expect(says(reply([line({ stock: stock({ arrivesOn: "2026-11-23" }) }), other]))).toEqual([
      "They name a day that has passed.",
      "stands",
    ]);
    expect(says(reply([line({ stock: [...stock({}), ...stock({})] }), other]))).toEqual([
      "They name the depot Kelpholm depot twice.",
      "stands",
    ]);
    expect(says(reply([line({ status: "not sold" }), { ...other, status: "unknown" }]))).toEqual([
      "They do not sell it any more.",
      "They do not know this article.",
    ]);
    expect(says(reply([line(), other], { pricesHoldUntil: "2026-11-23" }))).toEqual([
      "Their prices have run out.",
      "Their prices have run out.",
    ]);
  });

  it("refuses whole what is not in the format", () => {
    const place = "What they sent is not in the agreed format, at ";
    expect(says("<html>")).toBe("What they sent is not JSON.");
    expect(says(reply([line()], { format: "other/1" }))).toContain(`${place}format`);
    expect(says(reply([line({ price: "-3" })]))).toBe(`${place}lines.0.price: A price with a point, such as 18.40.`);
    expect(says(reply([line({ price: 18.4 })]))).toContain(`${place}lines.0.price`);
    expect(says(reply([line({ stock: [{ depot: "K", onHand: "1e9" }] })]))).toContain(`${place}lines.0.stock.0.onHand`);
    expect(says(reply([line({ stock: [{ depot: "K", onHand: "1", arrivesOn: "2026-02-30" }] })]))).toContain(
      "There is no such day.",
    );
    expect(says(reply([line()], { currency: "GBP" }))).toBe("They answer in GBP, where we buy from them in EUR.");
    expect(says(reply([line(), line()]))).toBe("They answer the same line twice.");
    expect(says([])).toContain(`${place}its top`);
  });

  it("publishes a schema of both messages", () => {
    const { $defs } = availabilitySchema();
    expect($defs.request.required).toEqual(["format", "currency", "deliverTo", "lines"]);
    expect($defs.reply.required).toEqual(["format", "currency", "depots", "lines"]);
  });
});
