// Checks a company's file: npm run always-true -- data/wharf-tally.db
import { openDatabase } from "../server/db/open";
import { brokenTruths } from "../server/read/always-true";

const file = process.argv[2] ?? "data/wharf-tally.db";
const db = openDatabase(file);
const found = brokenTruths(db);
db.close();
for (const f of found) console.error(f);
console.log(
  found.length ? `${found.length} things do not hold in ${file}.` : `Everything that must hold does hold in ${file}.`,
);
process.exitCode = found.length ? 1 : 0;
