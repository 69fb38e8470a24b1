declare module "gs1-barcode-parser-mod" {
  /** Throws what says why the elements cannot be read. */
  export function parseBarcode(barcode: string): {
    codeName: string;
    parsedCodeItems: { ai: string; dataTitle: string; data: unknown; unit: string; isoDate: string; raw: string }[];
  };
}
