/** The plain text of a message that we wrote ourselves (RFC 5322, MIME multipart with a text part first). */
export function readText(eml: Uint8Array): string {
  const [first] = partsOf(eml);
  return first ? decoded(first).toString("utf8") : "";
}

/** What is attached to such a message with a type, in its order. */
export const readAttached = (eml: Uint8Array, type: string): Buffer[] =>
  partsOf(eml)
    .filter((p) => new RegExp(`^content-type:\\s*${type}\\b`, "im").test(p.head))
    .map(decoded);

interface Part {
  head: string;
  body: string;
}

function partsOf(eml: Uint8Array): Part[] {
  const message = Buffer.from(eml).toString("latin1");
  const boundary = /boundary="([^"]+)"/.exec(message)?.[1];
  const parts = boundary ? message.split(`--${boundary}`).slice(1) : [message];
  return parts.map((part) => {
    const [head = "", ...rest] = part.replace(/^\r?\n/, "").split(/\r?\n\r?\n/);
    return { head, body: rest.join("\n\n").trim() };
  });
}

function decoded({ head, body }: Part): Buffer {
  const encoding = /content-transfer-encoding:\s*(\S+)/i.exec(head)?.[1]?.toLowerCase();
  if (encoding === "base64") return Buffer.from(body, "base64");
  if (encoding === "quoted-printable") {
    const bytes = body
      .replace(/=\r?\n/g, "")
      .replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));
    return Buffer.from(bytes, "latin1");
  }
  return Buffer.from(body, "latin1");
}
