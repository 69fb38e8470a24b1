import { checked } from "../../../server/acts/desk";
import { TryRules } from "../../../server/acts/signoff/keep-rules";
import { inWorker } from "../../../server/jobs/crew";
import { answered } from "../../web/page";

/** Tries rules on the last twelve months: a line of JSON for each step on the way, and the result as the last. */
export const action = answered("keep ladders", ({ db, day, house, request }, input) => {
  const fields = checked(TryRules, input);
  if (!fields.ok) return Response.json(fields, { status: 422 });
  const { rules } = fields.value;
  const body = new ReadableStream({
    async start(to) {
      const text = new TextEncoder();
      const say = (what: object) => {
        if (!request.signal.aborted) to.enqueue(text.encode(`${JSON.stringify(what)}\n`));
      };
      try {
        const result = await inWorker(
          "trial",
          { file: db.name, rules, today: day },
          { onPart: say, signal: request.signal },
        );
        say({ result });
      } catch (err) {
        if (!request.signal.aborted) {
          house.log.error({ err, reference: house.reference }, "trying rules met a fault");
          say({ problem: `Something went wrong on our side. Reference ${house.reference}` });
        }
      }
      if (!request.signal.aborted) to.close();
    },
  });
  // Nothing on the way may gather the lines into one.
  return new Response(body, { headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-transform" } });
});
