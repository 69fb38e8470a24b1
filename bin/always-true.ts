// Checks a company's file: npm run always-true -- data/wharf-tally.db
import { openToRead } from "../server/db/company-file";
import { brokenTruths } from "../server/queries/always-true";

const file = process.argv[2] ?? "data/wharf-tally.db";
try {
  const db = openToRead(file);
  const found = brokenTruths(db);
  db.close();
  for (const f of found) console.error(f);
  console.log(
    found.length ? `${found.length} things do not hold in ${file}.` : `Everything that must hold does hold in ${file}.`,
  );
  process.exitCode = found.length ? 1 : 0;
} catch (e) {
  console.error((e as Error).message);
  process.exitCode = 2;
}
