/** What can be signed. A new kind of paper is an entry here, one in the queries and one in the acts of sign-off. */
export const PAPERS_TO_SIGN = ["requisition", "order", "agreement", "invoice"] as const;
export type Paper = (typeof PAPERS_TO_SIGN)[number];

interface PaperWords {
  /** What stands before its number. */
  title: string;
  path: string;
  /** What does not happen while it waits. */
  ifItStays: string;
  /** What its writer is told when everybody has signed, after its name. */
  cleared: string;
}

export const WAITING_WORDS: Record<Paper, PaperWords> = {
  requisition: {
    title: "Requisition",
    path: "/requisitions",
    ifItStays: "it is not ordered",
    cleared: "is signed off",
  },
  agreement: {
    title: "Agreement",
    path: "/agreements",
    ifItStays: "nothing of theirs comes under it",
    cleared: "is signed, and runs",
  },
  invoice: { title: "Invoice", path: "/settle", ifItStays: "it is not paid", cleared: "is accepted" },
  order: { title: "Order", path: "/orders", ifItStays: "it is not sent", cleared: "is cleared to be placed" },
};

/** Where a paper is opened. */
export const paperHref = (paper: Paper, id: number): string => `${WAITING_WORDS[paper].path}/${id}`;

/** "Order 26-1042". */
export const paperName = (paper: Paper, number: string | null): string =>
  `${WAITING_WORDS[paper].title} ${number ?? "without a number"}`;
