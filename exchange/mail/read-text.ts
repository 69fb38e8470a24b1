/** The plain text of a message that we wrote ourselves (RFC 5322, MIME multipart with a text part first). */
export function readText(eml: Uint8Array): string {
  const message = Buffer.from(eml).toString("latin1");
  const boundary = /boundary="([^"]+)"/.exec(message)?.[1];
  const part = boundary ? (message.split(`--${boundary}`)[1] ?? "") : message;
  const [head = "", ...rest] = part.replace(/^\r?\n/, "").split(/\r?\n\r?\n/);
  const body = rest.join("\n\n").trim();
  const encoding = /content-transfer-encoding:\s*(\S+)/i.exec(head)?.[1]?.toLowerCase();
  if (encoding === "base64") return Buffer.from(body, "base64").toString("utf8");
  if (encoding === "quoted-printable") {
    const bytes = body
      .replace(/=\r?\n/g, "")
      .replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));
    return Buffer.from(bytes, "latin1").toString("utf8");
  }
  return Buffer.from(body, "latin1").toString("utf8");
}
