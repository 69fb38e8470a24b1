import { SaxesParser } from "saxes";

/** An element of a document: its name without prefix, its namespace, its attributes and what stands in it. */
export interface Element {
  name: string;
  namespace: string;
  attributes: Readonly<Record<string, string>>;
  text: string;
  children: Element[];
}

/** The most that is read, and how deep elements may stand in each other: no business document comes near. */
export const MOST_XML_BYTES = 5_000_000;
const MOST_DEEP = 60;

/**
 * Reads a document that somebody else wrote. Nothing outside of it is ever looked at: one that declares entities or a
 * document type is refused whole, as is one that is too large, too deep or not well formed.
 */
export function readXml(bytes: Uint8Array): { ok: true; root: Element } | { ok: false; says: string } {
  if (bytes.length === 0) return { ok: false, says: "The file is empty." };
  if (bytes.length > MOST_XML_BYTES) return { ok: false, says: "The file is larger than 5 MB." };
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return { ok: false, says: "The file is not in UTF-8." };
  }
  const parser = new SaxesParser({ xmlns: true });
  const top: Element = { name: "", namespace: "", attributes: {}, text: "", children: [] };
  const open: Element[] = [top];
  let says: string | null = null;
  const stop = (why: string): never => {
    says = why;
    throw new Error(why);
  };
  parser.on("doctype", () => stop("The file declares a document type or entities. Such files are not read."));
  parser.on("error", (e) => stop(`The file is not well-formed XML: ${e.message}.`));
  parser.on("opentag", (tag) => {
    if (open.length > MOST_DEEP) stop("The elements of the file stand too deep in each other.");
    const element: Element = {
      name: tag.local,
      namespace: tag.uri,
      attributes: Object.fromEntries(Object.values(tag.attributes).map((a) => [a.local, a.value])),
      text: "",
      children: [],
    };
    open.at(-1)!.children.push(element);
    open.push(element);
  });
  const put = (t: string) => {
    open.at(-1)!.text += t;
  };
  parser.on("text", put);
  parser.on("cdata", put);
  parser.on("closetag", () => {
    open.pop();
  });
  try {
    parser.write(text).close();
  } catch (e) {
    if (says === null) throw e;
    return { ok: false, says };
  }
  const [root] = top.children;
  return root ? { ok: true, root } : { ok: false, says: "The file holds no document." };
}

/** The elements that lie at the end of a path of names. */
export function allAt(from: Element, ...path: string[]): Element[] {
  return path.reduce<Element[]>((here, name) => here.flatMap((e) => e.children.filter((c) => c.name === name)), [from]);
}

/** The text of the first element at the end of a path, without blanks around it; null where there is none, or nothing in it. */
export const textAt = (from: Element, ...path: string[]): string | null => allAt(from, ...path)[0]?.text.trim() || null;
