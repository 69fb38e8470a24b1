import { isOneOf } from "../keys";
export const ROLES = [
  "requester",
  "buyer",
  "purchasing lead",
  "approver",
  "dock hand",
  "accounts",
  "administrator",
  "auditor",
] as const;
export type Role = (typeof ROLES)[number];

/** What the product lets a role do or see. The server asks this for each loader and action. */
const MAY = {
  "keep own inbox": ROLES,
  ask: ["requester", "buyer", "purchasing lead"],
  "see requisitions": ["requester", "buyer", "purchasing lead", "auditor", "administrator"],
  "see all requisitions": ["buyer", "purchasing lead", "auditor", "administrator"],
  plan: ["buyer", "purchasing lead"],
  "see needs": ["buyer", "purchasing lead", "auditor"],
  "write orders": ["buyer", "purchasing lead"],
  "see benches": ["buyer", "purchasing lead", "auditor"],
  "see orders": ["buyer", "purchasing lead", "approver", "accounts", "auditor"],
  "see prices": ["buyer", "purchasing lead", "approver", "accounts", "auditor", "administrator"],
  // Whether somebody may sign a certain paper is the ladder’s to say.
  sign: ["approver", "buyer", "purchasing lead", "accounts"],
  "see sign-offs": ["approver", "buyer", "purchasing lead", "accounts", "auditor"],
  "keep ladders": ["purchasing lead", "administrator"],
  "see ladders": ["approver", "buyer", "purchasing lead", "accounts", "administrator", "auditor"],
  place: ["buyer", "purchasing lead"],
  "open again": ["purchasing lead"],
  "count in": ["dock hand"],
  // Goods that were counted and not taken in.
  "judge goods": ["buyer", "purchasing lead"],
  "picture goods": ["dock hand", "buyer", "purchasing lead"],
  "see stock values": ["purchasing lead", "accounts", "auditor"],
  "undo receipts": ["dock hand", "buyer", "purchasing lead"],
  "keep tolerances": ["purchasing lead", "administrator"],
  "see tolerances": ["buyer", "purchasing lead", "administrator", "auditor"],
  "announce loads": ["dock hand", "buyer", "purchasing lead"],
  "see dock": ["dock hand", "buyer", "purchasing lead", "auditor"],
  "see items": [
    "requester",
    "buyer",
    "purchasing lead",
    "approver",
    "dock hand",
    "accounts",
    "administrator",
    "auditor",
  ],
  "keep sourcing": ["buyer", "purchasing lead", "administrator"],
  "keep items": ["purchasing lead", "administrator"],
  "see jobs": ["requester", "buyer", "purchasing lead", "approver", "administrator", "auditor"],
  "keep marks": ["purchasing lead", "administrator"],
  "keep papers": ["purchasing lead", "administrator"],
  "keep jobs": ["buyer", "purchasing lead", "administrator"],
  "see transfers": ["requester", "buyer", "purchasing lead", "dock hand", "auditor"],
  "move stock": ["buyer", "purchasing lead", "dock hand"],
  "write off": ["buyer", "purchasing lead"],
  // Goods of suppliers on our shelves.
  "see consigned": ["requester", "buyer", "purchasing lead", "dock hand", "accounts", "auditor"],
  "use at jobs": ["requester", "buyer", "purchasing lead", "dock hand"],
  "register goods": ["dock hand", "buyer", "purchasing lead"],
  "ask for refills": ["buyer", "purchasing lead"],
  "see agreements": ["buyer", "purchasing lead", "approver", "accounts", "auditor"],
  "settle statements": ["buyer", "purchasing lead", "accounts"],
  // Settle: whoever enters an invoice does not say that its price is right.
  "see invoices": ["buyer", "purchasing lead", "accounts", "auditor"],
  "enter invoices": ["accounts"],
  "accept prices": ["buyer", "purchasing lead"],
  claim: ["buyer", "purchasing lead", "accounts"],
  pay: ["accounts"],
  // A second pair of eyes before the bank has it.
  "release payments": ["purchasing lead", "accounts"],
  "keep bank accounts": ["accounts", "administrator"],
  "close books": ["accounts"],
  // What moved stands on their Today.
  "follow spend": ["purchasing lead", "approver", "accounts"],
  "see insight": ["buyer", "purchasing lead", "approver", "accounts", "auditor"],
  "see payables": ["purchasing lead", "accounts", "auditor"],
  "keep bins": ["dock hand", "purchasing lead", "administrator"],
  "count stock": ["dock hand", "buyer", "purchasing lead"],
  "judge counts": ["buyer", "purchasing lead"],
  "print labels": ["dock hand", "buyer", "purchasing lead", "administrator"],
  "keep labels": ["purchasing lead", "administrator"],
  "see shelves": ["dock hand", "buyer", "purchasing lead", "administrator", "auditor"],
  "walk the floor": ["buyer", "purchasing lead", "dock hand", "requester"],
  "see suppliers": ["buyer", "purchasing lead", "approver", "accounts", "administrator", "auditor"],
  "see outbox": ["buyer", "purchasing lead", "administrator", "auditor"],
  "load files": ["administrator"],
  "save files": ["administrator", "auditor"],
  "keep people": ["administrator"],
  "keep settings": ["administrator"],
  "see the trail": ["administrator", "auditor"],
} as const satisfies Record<string, readonly Role[]>;

export type Act = keyof typeof MAY;

export const may = (roles: readonly Role[], act: Act): boolean => MAY[act].some((r) => roles.includes(r));

/** The roles that a text names, separated by commas. */
export const rolesIn = (text: string): Role[] => text.split(",").filter((r) => isOneOf(ROLES, r));
