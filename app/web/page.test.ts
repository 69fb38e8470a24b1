import { expect, it } from "vitest";
import { type Desk, done, refuse } from "../../server/acts/desk";
import { oneOf, type Visit, withSent } from "./page";
import { type Sent, Upload } from "./sent";

const desk = {} as Desk; // none of these acts looks at it
const visit = { params: { id: "12" } } as unknown as Visit;
const kept = oneOf(
  {
    keep: (_, input) => done(input),
    attach: withSent("file", "Choose a file.", (_, file, { paper }) => done({ name: file.name, paper })),
  },
  ({ params }) => ({ paper: Number(params.id) }),
);
const sent = (input: Sent) => kept(desk, input, visit);

it("what the address says stands above what was sent", () => {
  expect(sent({ do: "keep", paper: "99", note: "soon" })).toEqual(done({ do: "keep", paper: 12, note: "soon" }));
});

it.each([{}, { do: "end" }, { do: "toString" }, { do: ["keep"] }])(
  "a word that the page does not know: %j",
  (input) => {
    expect(sent(input)).toEqual(refuse("", "This cannot be done here."));
  },
);

it("a file has to come as a file", () => {
  const file = new Upload("drawing.pdf", new Uint8Array([1]));
  expect(sent({ do: "attach", file })).toEqual(done({ name: "drawing.pdf", paper: 12 }));
  expect(sent({ do: "attach", file: "drawing.pdf" })).toEqual(refuse("file", "Choose a file."));
});
