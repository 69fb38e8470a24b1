import { type Db, sql } from "../db/open";

/** How many days things are kept that nothing refers to any more. */
const DAYS = {
  /** Answers under a key: whoever sends the same again does so within minutes. */
  submissions: 30,
  /** Links in e-mails to approvers, after they ended. */
  signLinks: 30,
  /** News that was put away. */
  notices: 400,
  /** What suppliers said of their stock, unless its price was taken over. */
  said: 90,
} as const;

/** Takes away what would grow without end. Papers, movements, messages and the trail stay. Returns how many rows went. */
export function sweepOld(db: Db, now: Date): number {
  const before = (days: number) => new Date(now.getTime() - days * 86_400_000).toISOString();
  const gone = (text: string, at: string) => sql(db, text).run(at).changes;
  return (
    gone("DELETE FROM submission WHERE at < ?", before(DAYS.submissions)) +
    gone("DELETE FROM sign_link WHERE ends < ?", before(DAYS.signLinks)) +
    gone("DELETE FROM notice WHERE read < ?", before(DAYS.notices)) +
    gone("DELETE FROM said_stock WHERE at < ? AND id NOT IN (SELECT said FROM said_price)", before(DAYS.said)) +
    gone("DELETE FROM session WHERE ends < ?", now.toISOString())
  );
}
