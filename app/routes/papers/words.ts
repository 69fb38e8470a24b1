/** What a batch is called. */
export const BATCH_WORDS = {
  print: { title: "Papers of", done: "printed" },
  mail: { title: "E-mails for", done: "sent" },
  place: { title: "Placing", done: "placed" },
} as const;
