/** Text without control characters (line ends stay), trimmed. */
export const plainText = (s: string) => s.replace(/(?!\n)\p{Cc}/gu, "").trim();

/** "1 line", "3 lines". */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;
