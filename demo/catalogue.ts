/**
 * What Kelpholm Ferries buys. One line an item:
 * code | name | category | stock unit | cost of one | used a week | stores | offers
 * An offer is supplier:unit:factor:lead days:price against cost; the first is preferred. Stores are T, H and S; a "-" after
 * one means that it runs low there.
 */
const TABLE = `
ANO-11W|Hull anode, 11 kg weld-on|Anodes|each|31.2|2.2|T H-|BAW:each:1:12:1;FES:each:1:6:1.16
ANO-S60|Shaft anode, 60 mm split|Anodes|each|22.9|0.8|H-|BAW:each:1:12:1;FES:each:1:6:1.2
ANO-BK6|Bilge keel anode, 6 kg|Anodes|each|17.4|1.1|T H|BAW:each:1:12:1
ANO-RUD|Rudder anode, bolted pair|Anodes|pair|68.35|0.3|H|BAW:pair:1:12:1
ANO-BSN|Backing sheet, neoprene|Anodes|each|9.2|1.2|H|BAW:each:1:12:1
ANO-PRP|Propeller nut anode|Anodes|each|41.6|0.35|H|BAW:each:1:12:1;FES:each:1:7:1.1
ANO-SEA|Sea chest anode, 2 kg|Anodes|each|8.9|0.9|T H|BAW:box:6:12:1
HYD-046|Hydraulic oil, grade 46|Lubricants|L|3.12|140|T- S|TTL:drum:200:10:1;QUO:drum:200:18:0.94;FES:drum:200:6:1.18
HYD-032|Hydraulic oil, grade 32|Lubricants|L|3.05|38|T|TTL:drum:200:10:1;QUO:drum:200:18:0.95
GBX-090|Gearbox oil, SAE 90|Lubricants|L|4.05|46|T-|TTL:drum:200:10:1;QUO:drum:200:18:0.9;FES:drum:200:6:1.2
ENG-1540|Engine oil, 15W-40|Lubricants|L|2.86|210|T H S|QUO:drum:200:14:1;TTL:drum:200:10:1.05
GRS-STB|Stern tube grease|Lubricants|kg|11.8|4.4|T H-|TTL:keg:18:10:1;QUO:keg:18:18:1.03;FES:keg:18:6:1.15
GRS-WRE|Wire rope grease|Lubricants|kg|9.4|3.1|T H|TTL:keg:18:10:1
CLT-RTU|Coolant, ready mixed|Lubricants|L|1.92|64|T S-|QUO:drum:200:14:1;TTL:drum:200:10:1.12;FES:drum:200:6:1.2
LUB-PEN|Penetrating oil, spray|Lubricants|each|6.15|5.5|T H S|TTL:case:12:10:1
FLT-F10|Fuel filter element, 10 micron|Filters|each|8.95|6.4|T- S|HAF:each:1:9:1;FES:each:1:6:1.14;MIH:each:1:8:1.08;TTL:each:1:10:0.97
FLT-F30|Fuel filter element, 30 micron|Filters|each|7.4|4.2|T|HAF:each:1:9:1
FLT-L22|Lube filter, spin-on|Filters|each|6.7|5.1|T S-|HAF:each:1:9:1;FES:each:1:6:1.1;MIH:each:1:8:1.04;TTL:each:1:10:0.99
FLT-AIR|Air filter, main engine|Filters|each|58.3|0.5|T|HAF:each:1:9:1
FLT-HYD|Hydraulic return filter|Filters|each|24.6|1.1|T H|HAF:each:1:9:1;MIH:each:1:8:1.06
FLT-WSP|Water separator bowl kit|Filters|set|33.8|0.4|T|HAF:set:1:9:1
FLT-CRK|Crankcase breather element|Filters|each|19.2|0.6|T|HAF:each:1:9:1
IMP-065|Raw-water impeller, 65 mm|Pumps|each|41|0.9|T S-|FES:each:1:6:1;MIH:each:1:9:0.97
IMP-090|Raw-water impeller, 90 mm|Pumps|each|63.5|0.5|T|FES:each:1:6:1
PMP-SEA|Sea water pump, complete|Pumps|each|612|0.05|T|FES:each:1:16:1
PMP-BLG|Bilge pump, 24 V|Pumps|each|148|0.2|T S|LRE:each:1:5:1;FES:each:1:6:1.08
PMP-GSK|Pump gasket set|Pumps|set|17.9|0.7|T H|FES:set:1:6:1
SEAL-M40|Mechanical seal, 40 mm|Pumps|each|96|0.25|T H|MIH:each:1:9:1
ROP-048|Mooring rope, 48 mm 8-strand|Rope and rigging|m|5.9|28|T-|NRR:coil:220:10:1;PUF:coil:220:12:1.06
ROP-032|Mooring rope, 32 mm 8-strand|Rope and rigging|m|3.4|20|T S|NRR:coil:220:10:1
ROP-HVL|Heaving line with monkey fist|Rope and rigging|each|22.4|0.9|T- S|NRR:each:1:10:1;PUF:each:1:12:0.92
ROP-W16|Wire rope, 16 mm galvanised|Rope and rigging|m|4.75|9|H|NRR:coil:100:10:1
RIG-SH4|Bow shackle, 4.75 t|Rope and rigging|each|14.2|1.4|T H|NRR:each:1:10:1;SAF:each:1:7:1.09
RIG-TRN|Turnbuckle, M20|Rope and rigging|each|19.8|0.6|H|NRR:each:1:10:1
RIG-FND|Fender, 400 by 1,200 mm|Rope and rigging|each|186|0.3|T S|NRR:each:1:10:1;PUF:each:1:12:1.1
RIG-THM|Thimble, 48 mm|Rope and rigging|each|4.9|1.6|T|NRR:box:10:10:1
STL-P08|Steel plate, 8 mm grade A|Steel|kg|1.18|160|H-|VSS:sheet:471:14:1
STL-P10|Steel plate, 10 mm grade A|Steel|kg|1.21|110|H|VSS:sheet:589:14:1
STL-A60|Angle bar, 60 by 60 by 6|Steel|m|6.8|8|H|VSS:length:6:14:1
STL-F50|Flat bar, 50 by 8|Steel|m|4.1|11|H|VSS:length:6:14:1
STL-T21|Pipe, 2 inch schedule 40|Steel|m|11.9|6|H|VSS:length:6:14:1
STL-ROD|Welding electrode, 3.2 mm|Steel|kg|7.3|12|H-|VSS:pack:5:14:1
STL-WIR|Welding wire, 1.2 mm|Steel|kg|4.4|9|H|VSS:roll:15:14:1
BRG-6310|Bearing, deep groove 6310|Bearings and seals|each|28.7|0.8|T H|OSD:each:1:6:1
BRG-6208|Bearing, deep groove 6208|Bearings and seals|each|14.9|1.2|T|OSD:each:1:6:1
BRG-CUT|Cutless bearing, 75 mm|Bearings and seals|each|212|0.15|H-|OSD:each:1:12:1
BRG-SPH|Spherical bearing, 60 mm|Bearings and seals|each|74.5|0.2|H|OSD:each:1:8:1
SEA-OR1|O-ring kit, metric|Bearings and seals|set|31|0.6|T H S|OSD:set:1:6:1;MIH:set:1:8:0.98
SEA-LIP|Lip seal, 80 by 105|Bearings and seals|each|12.6|1.5|T H|OSD:each:1:6:1
SEA-STN|Stern seal kit|Bearings and seals|set|486|0.08|H|OSD:set:1:15:1
SEA-PCK|Gland packing, 12 mm|Bearings and seals|m|9.6|3.2|T H|OSD:pack:8:6:1
HOS-H12|Hydraulic hose, half inch two-wire|Hoses|m|7.2|9|T H|MIH:coil:50:8:1;FES:coil:50:6:1.12;NRR:coil:50:10:1.03
HOS-H34|Hydraulic hose, three quarter inch|Hoses|m|11.4|5|T|MIH:coil:50:8:1
HOS-FUE|Fuel hose, 10 mm|Hoses|m|6.1|5|T S|MIH:coil:30:8:1
HOS-EXH|Exhaust hose, 150 mm|Hoses|m|58|0.9|T|MIH:length:4:8:1
HOS-FIT|Hose fitting, half inch BSP|Hoses|each|4.6|12|T H|MIH:box:25:8:1
HOS-CLP|Hose clip, stainless 60 to 80|Hoses|each|1.9|16|T H S|SAF:box:50:7:1;MIH:box:50:8:1.1
CYL-SEA|Cylinder seal kit, ramp|Hoses|set|134|0.2|T H|MIH:set:1:8:1
LMP-NAV|Navigation lamp, LED|Electrical|each|118|0.3|T S|LRE:each:1:5:1
LMP-FLD|Floodlight, 100 W LED|Electrical|each|86|0.5|T- H|LRE:each:1:5:1
LMP-EMG|Emergency lamp, 24 V|Electrical|each|44.5|0.8|T|LRE:each:1:5:1
BRK-016|Breaker, 16 A|Electrical|each|12.3|1.4|T S|LRE:each:1:5:1
BRK-063|Breaker, 63 A three-pole|Electrical|each|58.9|0.4|T|LRE:each:1:5:1
CAB-250|Marine cable, 3 by 2.5|Electrical|m|2.35|42|T H|LRE:coil:100:5:1
CAB-GLD|Cable gland, M20 brass|Electrical|each|3.1|9|T|LRE:box:25:5:1
BAT-120|Starter battery, 120 Ah|Electrical|each|168|0.5|T- S|LRE:each:1:5:1;FES:each:1:8:1.05
FUS-NH1|Fuse, NH1 160 A|Electrical|each|9.8|0.9|T|LRE:box:3:5:1
SNS-TMP|Temperature sensor, PT100|Electrical|each|37|0.4|T|LRE:each:1:9:1
LIF-ADU|Lifejacket, adult|Safety|each|64|1.6|T|PUF:each:1:12:1
LIF-CHI|Lifejacket, child|Safety|each|52|0.7|T|PUF:each:1:12:1
FLR-HND|Hand flare, red|Safety|each|12.8|1.4|T S|PUF:box:6:12:1
FLR-ROC|Parachute rocket, red|Safety|each|34.5|0.7|T S|PUF:each:1:12:1
FLR-SMK|Smoke signal, orange|Safety|each|41|0.5|T|PUF:each:1:12:1
EXT-P06|Extinguisher refill, 6 kg powder|Safety|each|18.9|1.3|T H S|PUF:each:1:12:1
EXT-CO2|Extinguisher refill, 5 kg CO2|Safety|each|24.2|0.6|T H|PUF:each:1:12:1
LFB-RNG|Lifebuoy with light|Safety|each|79|0.4|T S|PUF:each:1:12:1
GLV-NIT|Gloves, nitrile|Safety|each|0.42|110|T H S|PUF:box:100:12:1
SUI-IMM|Immersion suit, universal|Safety|each|312|0.1|T|PUF:each:1:18:1
BLT-M12|Bolt, M12 by 50 A4|Fasteners|each|0.19|90|H-|SAF:box:100:7:1
BLT-M16|Bolt, M16 by 60 A4|Fasteners|each|1.45|60|H|SAF:box:50:7:1
BLT-M20|Bolt, M20 by 80 A4|Fasteners|each|3.12|26|H|SAF:box:25:7:1
NUT-M12|Nut, M12 A4|Fasteners|each|0.12|95|H|SAF:box:200:7:1
NUT-M16|Nut, M16 A4|Fasteners|each|0.54|60|H|SAF:box:100:7:1
WSH-M12|Washer, M12 A4|Fasteners|each|0.03|140|H|SAF:box:500:7:1
RIV-048|Blind rivet, 4.8 by 16|Fasteners|each|0.19|60|T H|SAF:box:250:7:1
STU-M24|Stud, M24 by 140|Fasteners|each|9.4|4|H|SAF:each:1:7:1
GAL-COF|Coffee, ground|Galley|kg|11.2|14|T S|CGG:carton:8:3:1
GAL-TEA|Tea, bags of a hundred|Galley|box|4.9|8|T S|CGG:carton:12:3:1
GAL-CUP|Paper cup, 250 ml|Galley|each|0.09|1100|T- S|CGG:carton:1000:3:1
GAL-NAP|Napkins|Galley|pack|2.8|18|T S|CGG:carton:24:3:1
GAL-SUG|Sugar sachets|Galley|box|6.1|4|T S|CGG:carton:4:3:1
GAL-CLN|Galley cleaner, 5 L|Galley|each|9.9|5|T S|CGG:case:4:3:1
GAL-BAG|Refuse bags, heavy|Galley|roll|5.2|9|T H S|CGG:carton:10:3:1
PNT-AFR|Antifouling, red|Paint|L|29.5|11|H-|FES:can:20:9:1
PNT-PRM|Epoxy primer, grey|Paint|L|16.8|9|H|FES:can:20:9:1
PNT-DCK|Deck paint, green|Paint|L|14.4|7|T H|FES:can:20:9:1
PNT-THN|Thinner, number 17|Paint|L|6.6|8|H|FES:can:20:9:1
PNT-ROL|Roller sleeve, 180 mm|Paint|each|2.1|14|H|SAF:box:20:7:1
ENG-INJ|Injector, main engine|Engine spares|each|284|0.15|T|FES:each:1:6:1
ENG-GSK|Cylinder head gasket|Engine spares|each|72|0.3|T|FES:each:1:6:1
ENG-BLT|Alternator belt|Engine spares|each|23.4|1|T S|FES:each:1:6:1;LRE:each:1:5:1.07
ENG-THM|Thermostat, 82 degrees|Engine spares|each|36|0.4|T|FES:each:1:6:1
ENG-TUR|Turbocharger cartridge|Engine spares|each|1460|0.03|T|FES:each:1:12:1
ENG-GLO|Heater plug|Engine spares|each|18.2|0.7|T|FES:each:1:6:1
`;

export interface Offer {
  supplier: string;
  unit: string;
  factor: number;
  lead: number;
  against: number;
}
export interface DemoItem {
  code: string;
  name: string;
  category: string;
  unit: string;
  cost: number;
  weekly: number;
  stores: { code: "TQ" | "HS" | "SK"; low: boolean }[];
  offers: Offer[];
}

const STORE = new Map<string, "TQ" | "HS" | "SK">([
  ["T", "TQ"],
  ["H", "HS"],
  ["S", "SK"],
]);

export const ITEMS: DemoItem[] = TABLE.trim()
  .split("\n")
  .map((line) => {
    const [code = "", name = "", category = "", unit = "", cost, weekly, stores = "", offers = ""] = line.split("|");
    return {
      code,
      name,
      category,
      unit,
      cost: Number(cost),
      weekly: Number(weekly),
      stores: stores.split(" ").map((s) => ({ code: STORE.get(s[0]!)!, low: s.endsWith("-") })),
      offers: offers.split(";").map((o) => {
        const [supplier = "", u = "", factor, lead, against] = o.split(":");
        return { supplier, unit: u, factor: Number(factor), lead: Number(lead), against: Number(against) };
      }),
    };
  });

/** What may stand in for what, and what to mind. */
export const ALTERNATIVES = [
  { item: "FLT-F10", other: "FLT-F30", both: false, note: "coarser: change it twice as often" },
  { item: "HYD-046", other: "HYD-032", both: false, note: "for ramps only, never for steering gear" },
  { item: "BRG-6310", other: "BRG-6208", both: false, note: "with the reducing sleeve" },
  { item: "ROP-048", other: "ROP-032", both: false, note: "doubled, for the small ferries" },
  { item: "LIF-ADU", other: "LFB-RNG", both: false, note: "on deck stations only" },
  { item: "GRS-STB", other: "GRS-WRE", both: false, note: "for one trip at the most" },
];

/** Lots of what expires: code, store, share of what is on hand, days until it expires, why it is held. */
export const LOTS = [
  { item: "FLR-HND", store: "TQ", lot: "K-2231", share: 0.4, inDays: -12, held: "" },
  { item: "FLR-HND", store: "TQ", lot: "K-2410", share: 0.6, inDays: 400, held: "" },
  { item: "FLR-ROC", store: "TQ", lot: "R-118", share: 0.5, inDays: 34, held: "" },
  { item: "FLR-SMK", store: "TQ", lot: "S-77", share: 0.5, inDays: 250, held: "label unreadable" },
] as const;

export const ACCOUNTS = [
  ["4100", "Stock"],
  ["4620", "Repairs and surveys"],
  ["4710", "Safety"],
  ["4800", "Galley"],
  ["4910", "Tools and small things"],
] as const;

/** Budget lines of the slip season: code, name, amount. */
export const BUDGETS = [
  ["REFIT", "Winter refits", "186000"],
  ["SAFETY", "Safety equipment", "24000"],
  ["YARD", "Yard and slipway", "38500"],
] as const;

/** What jobs give back to stock. */
export const OUTPUTS = [{ job: "2299", item: "PMP-SEA", store: "TQ", inDays: 11, quantity: 1 }] as const;

export const SERVICES = [
  {
    code: "SRV-CLS",
    name: "Class survey visit",
    unit: "visit",
    cost: 1850,
    supplier: "EIS",
    lead: 10,
    kind: "service",
  },
  {
    code: "SRV-UTM",
    name: "Hull thickness measurement",
    unit: "visit",
    cost: 1240,
    supplier: "EIS",
    lead: 8,
    kind: "service",
  },
  { code: "SRV-INC", name: "Stability check", unit: "visit", cost: 960, supplier: "EIS", lead: 8, kind: "service" },
  { code: "CHG-FRT", name: "Freight", unit: "each", cost: 95, supplier: "TTL", lead: 0, kind: "charge" },
] as const;

/** Refit jobs of the slip season: vessel, days from today, what they demand at the slip. */
export const JOBS: {
  code: string;
  name: string;
  vessel: string;
  kind?: "customer order";
  lines: [item: string, store: string, inDays: number, quantity: number][];
}[] = [
  {
    code: "2291",
    name: "Winter refit",
    vessel: "Marram",
    lines: [
      ["ANO-11W", "HS", 10, 36],
      ["ANO-S60", "HS", 10, 4],
      ["HYD-046", "TQ", 7, 260],
      ["GBX-090", "TQ", 8, 120],
      ["BRG-CUT", "HS", 14, 2],
      ["PNT-AFR", "HS", 15, 160],
      ["BLT-M12", "HS", 9, 240],
    ],
  },
  {
    code: "2296",
    name: "Winter refit",
    vessel: "Samphire",
    lines: [
      ["ANO-11W", "HS", 31, 30],
      ["STL-P08", "HS", 20, 1400],
      ["PNT-AFR", "HS", 33, 120],
      ["SEA-STN", "HS", 28, 1],
      ["STL-ROD", "HS", 21, 40],
    ],
  },
  {
    code: "2299",
    name: "Ramp repair",
    vessel: "Dunlin",
    lines: [
      ["HOS-H12", "HS", 12, 40],
      ["CYL-SEA", "HS", 12, 2],
      ["STL-P10", "HS", 13, 600],
      ["BLT-M20", "HS", 13, 60],
    ],
  },
  {
    code: "2303",
    name: "Winter refit",
    vessel: "Thrift",
    lines: [
      ["ANO-11W", "HS", 59, 34],
      ["BRG-SPH", "HS", 52, 2],
      ["ROP-048", "TQ", 40, 220],
    ],
  },
  {
    code: "C-118",
    name: "Mooring for the harbour board",
    vessel: "Kelpholm Harbour Board",
    kind: "customer order",
    lines: [
      ["RIG-FND", "TQ", 12, 6],
      ["ROP-032", "TQ", 12, 90],
      ["RIG-SH4", "TQ", 12, 12],
    ],
  },
  {
    code: "2307",
    name: "Safety round",
    vessel: "Whimbrel",
    lines: [
      ["LIF-ADU", "TQ", 18, 24],
      ["FLR-HND", "TQ", 18, 18],
      ["EXT-P06", "TQ", 16, 14],
    ],
  },
];
