/** The keys of a record that has those of its type and no other, such as a table of words written as an object. */
export const keysOf = <K extends string>(record: Readonly<Partial<Record<K, unknown>>>): K[] =>
  Object.keys(record) as K[]; // Object.keys promises less: a value may have more keys than its type

/** A record with a value for each of these keys. */
export const recordOf = <K extends string, V>(keys: readonly K[], of: (key: K) => V): Record<K, V> =>
  Object.fromEntries(keys.map((key) => [key, of(key)])) as Record<K, V>; // Object.fromEntries forgets the keys

/** Whether a value has fields that can be looked at. */
export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null;

/** Whether a value is one of these. */
export const isOneOf = <T>(list: readonly T[], value: unknown): value is T => list.some((one) => one === value);
