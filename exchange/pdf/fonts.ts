import { createRequire } from "node:module";
import { Font } from "@react-pdf/renderer";

const file = (name: string) => createRequire(import.meta.url).resolve(`@fontsource/${name}.woff`);

let registered = false;
/** The house's type on paper. Two subsets of each face, so that names from all over Europe print. */
export function registerFonts(): void {
  if (registered) return;
  for (const [subset, suffix] of [
    ["latin", ""],
    ["latin-ext", " Ext"],
  ] as const) {
    Font.register({
      family: `Commissioner${suffix}`,
      fonts: [
        { src: file(`commissioner/files/commissioner-${subset}-400-normal`), fontWeight: 400 },
        { src: file(`commissioner/files/commissioner-${subset}-700-normal`), fontWeight: 700 },
      ],
    });
    Font.register({
      family: `Spline${suffix}`,
      src: file(`spline-sans-mono/files/spline-sans-mono-${subset}-400-normal`),
    });
    Font.register({
      family: `Bricolage${suffix}`,
      src: file(`bricolage-grotesque/files/bricolage-grotesque-${subset}-700-normal`),
    });
  }
  Font.registerHyphenationCallback((word) => [word]); // codes and names are never broken
  registered = true;
}
