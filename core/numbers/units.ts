/**
 * Units of UN/ECE Recommendation 20 (measures) and 21 (packages, with an X before them), and the codes under which this house
 * knew some before: files and papers that were kept with those are read as these.
 */
export const FORMER_UNITS: Readonly<Record<string, string>> = {
  DR: "XDR",
  CL: "XCL",
  BX: "XBX",
  PK: "XPK",
  KEG: "XKG",
  CS: "XCS",
  CA: "XCA",
  BG: "XBG",
  RO: "XRO",
  BJ: "XPL",
  CT: "XCT",
  ST: "XST",
  // A length of something cut is counted; LM is a linear metre.
  LM: "LN",
  TU: "XTU",
  BO: "XBO",
};

/** The code of today for one that may be of before. */
export const unitCode = (code: string): string => FORMER_UNITS[code.toUpperCase()] ?? code.toUpperCase();

/** Units of Recommendation 20 that count things, as packages do; every other one measures, and may be parted. */
const COUNTED = new Set(["C62", "EA", "H87", "PR", "SET", "DZN", "LN", "NPR", "E48"]);

/** Do whole ones come alone? So it is with things and packages; kg, L and m come in parts. */
export const comesWhole = (code: string): boolean => COUNTED.has(code) || /^X[0-9A-Z]{2}$/.test(code);
