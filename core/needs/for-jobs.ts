/** Why a job cannot need something of this kind by a line of its own; null where it can. */
export const notForJobs = (kind: string): string | null =>
  kind === "stocked"
    ? null
    : `This is ${kind === "not stocked" ? "not kept in stock" : `a ${kind}`}: ask for it by a requisition.`;
