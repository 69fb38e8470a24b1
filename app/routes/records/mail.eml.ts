import { readMessage } from "../../../server/queries/records/outbox";
import { idOf, notFound, page } from "../../web/page";

export const loader = page("see outbox", ({ db, params }) => {
  const mail = readMessage(db, idOf(params.id));
  if (!mail) throw notFound("There is no such message.");
  return new Response(new Uint8Array(mail.eml), {
    headers: {
      "Content-Type": "message/rfc822",
      "Content-Disposition": `attachment; filename="${mail.subject.replace(/[^\w .-]+/g, "")}.eml"`,
    },
  });
});
