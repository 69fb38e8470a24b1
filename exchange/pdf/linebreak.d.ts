declare module "linebreak" {
  /** Where a line may be broken, by Unicode's rules (UAX 14). */
  export default class LineBreaker {
    constructor(text: string);
    /** The next place, in UTF-16 units from the start; null after the last. */
    nextBreak(): { position: number; required: boolean } | null;
  }
}
