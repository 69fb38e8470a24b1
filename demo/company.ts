/** Kelpholm Ferries, all made up: nine small ferries, three stores, fourteen suppliers. The rest is in `catalogue.ts`. */
import type { Role } from "../core/people/roles";
import { type Rules, WIDE } from "../core/signoff/rulebook";

export const COMPANY = {
  name: "Kelpholm Ferries",
  address: "1 Tarn Quay\nKelpholm KE1 1AA",
  taxNumber: "KF 204 118 663",
  mail: "purchasing@kelpholm.example",
  currency: "EUR",
};

export const STORES = [
  {
    code: "TQ",
    name: "Tarn Quay",
    address: "Gate 2, 1 Tarn Quay\nKelpholm KE1 1AA",
    receives: "mon tue wed thu fri",
    region: "IM",
  },
  {
    code: "HS",
    name: "Holm Slip",
    address: "The Slipway\nHolm KE4 2RS",
    receives: "mon tue wed thu fri",
    region: "IM",
  },
  { code: "SK", name: "Skellan", address: "Pier Store\nSkellan KE9 7QT", receives: "mon thu", region: "IM" },
] as const;

export const RATES = [
  ["GBP", "1.1540"],
  ["NOK", "0.0852"],
  ["SEK", "0.0871"],
  ["USD", "0.9265"],
] as const;

export const PEOPLE: { login: string; name: string; title: string; store: string | null; roles: Role[] }[] = [
  { login: "ines", name: "Ines Rathmore", title: "Buyer", store: "TQ", roles: ["buyer"] },
  { login: "sunniva", name: "Sunniva Brack", title: "Purchasing lead", store: "TQ", roles: ["purchasing lead"] },
  { login: "joss", name: "Joss Tarrow", title: "Engineer", store: "HS", roles: ["requester"] },
  { login: "maud", name: "Maud Ostrander", title: "Yard manager", store: "HS", roles: ["approver"] },
  { login: "halden", name: "Halden Prior", title: "Finance director", store: null, roles: ["approver"] },
  { login: "tobias", name: "Tobias Quell", title: "Dock hand at Tarn Quay", store: "TQ", roles: ["dock hand"] },
  { login: "petra", name: "Petra Lindqvale", title: "Accounts", store: null, roles: ["accounts"] },
  { login: "osk", name: "Osk Fennimer", title: "Administrator", store: null, roles: ["administrator"] },
  { login: "runa", name: "Runa Veldt", title: "Auditor", store: null, roles: ["auditor"] },
];

export const DEPARTMENTS = ["Yard", "Purchasing", "Engineering", "Finance", "Office"] as const;

/** Where they belong, whom they answer to, and whom a paper of theirs climbs to. */
export const BELONGS: Record<string, { department: (typeof DEPARTMENTS)[number]; manager: string | null }> = {
  ines: { department: "Purchasing", manager: "sunniva" },
  sunniva: { department: "Purchasing", manager: "halden" },
  joss: { department: "Engineering", manager: "maud" },
  maud: { department: "Yard", manager: "halden" },
  halden: { department: "Finance", manager: null },
  tobias: { department: "Yard", manager: "maud" },
  petra: { department: "Finance", manager: "halden" },
  osk: { department: "Office", manager: "halden" },
  runa: { department: "Office", manager: null },
};

export const TEAMS = [
  { name: "Yard manager", people: ["maud"] },
  { name: "Finance director", people: ["halden"] },
] as const;

/** None up to 800; yard manager up to 12,500; finance director above. Safety goods go by rules of their own. */
export function rulesOf(team: (name: string) => number): Rules {
  const yard = { kind: "team", team: team("Yard manager"), all: false } as const;
  const finance = { kind: "team", team: team("Finance director"), all: false } as const;
  const rungs = [
    { upTo: 80_000, who: null, hours: 8, climbsTo: null },
    { upTo: 1_250_000, who: yard, hours: 8, climbsTo: finance },
    { upTo: null, who: finance, hours: 16, climbsTo: null },
  ];
  return {
    allowance: { percent: 200, amount: 10_000 },
    ladders: [
      { id: 1, name: "Requisitions", papers: ["requisition"], ...WIDE, rungs },
      {
        id: 2,
        name: "Safety",
        papers: ["order", "change"],
        ...WIDE,
        categories: ["Safety"],
        rungs: [
          { upTo: 40_000, who: null, hours: 8, climbsTo: null },
          { upTo: 600_000, who: yard, hours: 8, climbsTo: finance },
          { upTo: null, who: finance, hours: 16, climbsTo: null },
        ],
      },
      {
        id: 3,
        name: "Orders",
        papers: ["order", "change"],
        ...WIDE,
        overBudget: { who: finance, hours: 16, climbsTo: null },
        rungs,
      },
      { id: 4, name: "Blanket orders", papers: ["blanket"], ...WIDE, rungs },
    ],
  };
}

export interface DemoSupplier {
  code: string;
  name: string;
  address: string;
  currency: string;
  terms: number;
  lead: "calendar" | "working";
  delivers: string;
  taxed: boolean;
  contact: string;
  /** Days from the day asked for to the day it really came: the supplier's habit. */
  habit: number;
  /** Whose public holidays they keep, from which hour on an order goes a day later, and who looks after them. */
  region?: string;
  cutOff?: number;
  buyer?: "ines" | "sunniva";
  /** What an order must come to at least, what freight it pays, and from which goods on it is carried free. */
  minimum?: number;
  freight?: number;
  freeFrom?: number;
}

const WEEK = "mon tue wed thu fri";
export const SUPPLIERS: DemoSupplier[] = [
  {
    code: "BAW",
    name: "Brannock Anode Works",
    address: "Foundry Lane 8\nBrannock",
    currency: "EUR",
    terms: 30,
    lead: "calendar",
    delivers: WEEK,
    taxed: true,
    contact: "Elspeth Munro",
    habit: 0,
    buyer: "ines",
    freight: 60,
    freeFrom: 1500,
  },
  {
    code: "TTL",
    name: "Tern & Tallow Lubricants",
    address: "Oil Wharf 7\nPort Ellery",
    currency: "EUR",
    terms: 30,
    lead: "calendar",
    delivers: "mon thu",
    taxed: true,
    contact: "Dorrit Pell",
    habit: 0,
    cutOff: 15,
    buyer: "ines",
    freight: 95,
    freeFrom: 7500,
  },
  {
    code: "QUO",
    name: "Quillmere Oils",
    address: "Refinery Road 41\nQuillmere",
    currency: "EUR",
    terms: 45,
    lead: "calendar",
    delivers: WEEK,
    taxed: true,
    contact: "Orders desk",
    habit: 4,
    buyer: "ines",
    minimum: 2500,
  },
  {
    code: "NRR",
    name: "Norrvik Rope & Rigging",
    address: "Taubrygga 3\nNorrvik",
    currency: "NOK",
    terms: 30,
    lead: "working",
    delivers: WEEK,
    taxed: false,
    contact: "Sindre Aasvik",
    habit: 2,
    region: "NO",
    cutOff: 12,
    buyer: "sunniva",
    freight: 1400,
  },
  {
    code: "HAF",
    name: "Halvard Filtration",
    address: "Filtergata 12\nHalvard",
    currency: "SEK",
    terms: 30,
    lead: "calendar",
    delivers: WEEK,
    taxed: false,
    contact: "Tove Lindmark",
    habit: 1,
    region: "SE",
    buyer: "ines",
    freight: 650,
    freeFrom: 6500,
  },
  {
    code: "OSD",
    name: "Osk & Daughters Bearings",
    address: "Race Street 19\nTollan",
    currency: "GBP",
    terms: 30,
    lead: "working",
    delivers: WEEK,
    taxed: false,
    contact: "Mabel Osk",
    habit: 0,
    region: "GB-ENG",
    cutOff: 16,
    buyer: "ines",
    freight: 18,
    freeFrom: 250,
  },
  {
    code: "VSS",
    name: "Veldan Steel Stockholders",
    address: "Plate Yard 1\nVeldan",
    currency: "EUR",
    terms: 60,
    lead: "calendar",
    delivers: "tue fri",
    taxed: true,
    contact: "Cormac Dray",
    habit: 3,
    buyer: "sunniva",
    freight: 140,
    freeFrom: 4000,
  },
  {
    code: "PUF",
    name: "Puffin Safety Supplies",
    address: "Beacon House\nStrandby",
    currency: "EUR",
    terms: 30,
    lead: "calendar",
    delivers: WEEK,
    taxed: true,
    contact: "Anneke Voss",
    habit: 6,
    buyer: "ines",
    freight: 25,
    freeFrom: 400,
  },
  {
    code: "LRE",
    name: "Longreach Electrics",
    address: "Relay Park 22\nLongreach",
    currency: "EUR",
    terms: 30,
    lead: "working",
    delivers: WEEK,
    taxed: true,
    contact: "Piet Halloran",
    habit: 0,
    cutOff: 16,
    buyer: "ines",
    minimum: 100,
    freight: 22,
  },
  {
    code: "MIH",
    name: "Mirren Hydraulics",
    address: "Pressure Works\nMirren",
    currency: "GBP",
    terms: 30,
    lead: "calendar",
    delivers: WEEK,
    taxed: false,
    contact: "Una Kerrigan",
    habit: 1,
    region: "GB-ENG",
    buyer: "ines",
    freight: 80,
    freeFrom: 1200,
  },
  {
    code: "SAF",
    name: "Saltby Fasteners",
    address: "Thread Row 5\nSaltby",
    currency: "EUR",
    terms: 30,
    lead: "calendar",
    delivers: "wed",
    taxed: true,
    contact: "Bram Tuttle",
    habit: 0,
    buyer: "sunniva",
  },
  {
    code: "CGG",
    name: "Corriebank Galley Goods",
    address: "Larder Lane 2\nCorriebank",
    currency: "EUR",
    terms: 14,
    lead: "calendar",
    delivers: "mon wed fri",
    taxed: true,
    contact: "Gwen Farrow",
    habit: 0,
    cutOff: 11,
    buyer: "ines",
    minimum: 150,
    freight: 15,
    freeFrom: 300,
  },
  {
    code: "EIS",
    name: "Eidervik Surveyors",
    address: "Harbour Office\nEidervik",
    currency: "EUR",
    terms: 30,
    lead: "working",
    delivers: WEEK,
    taxed: true,
    contact: "Captain Rolf Eide",
    habit: 0,
    region: "NO",
    buyer: "sunniva",
  },
  {
    code: "FES",
    name: "Fairlead Engine Spares",
    address: "Crankshaft Way 9\nFairlead",
    currency: "USD",
    terms: 30,
    lead: "calendar",
    delivers: WEEK,
    taxed: false,
    contact: "Spares desk",
    habit: -1,
    region: "US",
    buyer: "sunniva",
    freight: 45,
  },
];

export const VESSELS = [
  "Marram",
  "Samphire",
  "Dunlin",
  "Thrift",
  "Whimbrel",
  "Sea Aster",
  "Turnstone",
  "Sandwort",
  "Knot",
] as const;
