import { expect, it } from "vitest";
import { arrivalsCalendar } from "../../../exchange/ical/arrivals";
import { sql } from "../../db/open";
import { arrivalsOfLink, readArrivalLinks, readArrivals } from "../../queries/suppliers/arrivals";
import { must, refusal, TODAY, testHouse } from "../../testing";
import { loadFile } from "../files/load-file";
import { endArrivalLink, makeArrivalLink } from "./arrival-links";

it("what is expected at a store stands in a calendar, by a link that can be ended", () => {
  const h = testHouse();
  const file =
    "order,supplier,store,item,quantity,required,promised,price\nX-1,BAW,TQ,ANO,50,2026-12-04,2026-12-06,18.40\nX-2,BAW,HS,ANO,8,2026-11-20,,18.40\n";
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  const store = h.id("store", "TQ");
  const { calendar } = must(makeArrivalLink(h.desk("tobias"), { store }));
  expect(arrivalsOfLink(h.db, calendar)).toEqual({ store, name: "Tarn Quay" });
  const text = arrivalsCalendar("Arrivals", readArrivals(h.db, store, TODAY, "https://tally.example"), new Date(0));
  expect(text.split("\r\n")).toEqual(
    expect.arrayContaining([
      "DTSTART;VALUE=DATE:20261206",
      "SUMMARY:26-1001 Brannock",
      "DESCRIPTION:50 each Hull anode",
      "LOCATION:Tarn Quay",
      "TRANSP:TRANSPARENT",
    ]),
  );
  expect(text).not.toContain("18.4");
  const all = readArrivals(h.db, null, TODAY, "");
  expect(all.map((a) => [a.day, a.lines])).toEqual([
    [TODAY, ["8 each Hull anode, not promised, expected 2026-11-20"]],
    ["2026-12-06", ["50 each Hull anode"]],
  ]);
  const [mine] = readArrivalLinks(h.db, h.desk("tobias").person.id);
  expect(refusal(endArrivalLink(h.desk("ines"), { link: mine!.id }))).toEqual(["This link was ended already."]);
  must(endArrivalLink(h.desk("tobias"), { link: mine!.id }));
  expect([arrivalsOfLink(h.db, calendar), arrivalsOfLink(h.db, "guessed")]).toEqual([null, null]);
  const second = must(makeArrivalLink(h.desk("tobias"), {})).calendar;
  sql(h.db, "UPDATE person SET active = 0 WHERE login = 'tobias'").run();
  expect(arrivalsOfLink(h.db, second)).toBeNull();
  expect(refusal(makeArrivalLink(h.desk("joss"), {}))).toEqual(["Your role does not allow this."]);
  h.close();
});
