/** XML 1.0 forbids some letters anywhere, also written as numbers: they are left out. */
const FORBIDDEN = /[^\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/gu;
// What comes out has the shape of what went in: only letters of its texts are left out.
export function inXml<T>(content: T): T {
  if (typeof content === "string") return content.replace(FORBIDDEN, "") as T; // a text, as before
  if (Array.isArray(content)) return content.map(inXml) as T; // a list, as before
  if (typeof content === "object" && content !== null)
    return Object.fromEntries(Object.entries(content).map(([k, v]) => [k, inXml(v)])) as T; // the same names
  return content;
}
