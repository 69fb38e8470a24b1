import { checked } from "../../../server/acts/desk";
import { KeepPaper, placeholderProblems } from "../../../server/acts/papers/keep-papers";
import { drawPaper } from "../../../server/jobs/papers/draw";
import { exampleDocument } from "../../../server/queries/papers/example";
import { answered } from "../../web/page";

/** The paper as it would be with what is typed, drawn by what draws the real ones. Nothing is kept. */
export const action = answered("keep papers", async ({ db, day }, raw) => {
  // What the e-mail still lacks does not keep the paper from being shown.
  const input = checked(
    KeepPaper.pick({ kind: true, language: true, columns: true, prices: true, above: true, below: true, foot: true }),
    raw,
  );
  const problems = input.ok ? placeholderProblems(input.value) : input.problems;
  if (!input.ok || problems.length) return Response.json({ problems }, { status: 422 });
  const { kind, language, ...look } = input.value;
  const document = exampleDocument(db, kind, language, look, day);
  if (!document)
    return Response.json(
      { problems: [{ field: "", says: "There is no order to show it with yet." }] },
      { status: 422 },
    );
  const pdf = await drawPaper(db, document);
  return new Response(new Uint8Array(pdf), {
    headers: { "Content-Type": "application/pdf", "Cache-Control": "no-store" },
  });
});
