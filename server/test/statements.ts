import { appendFileSync } from 'node:fs';
import { join } from 'node:path';
import { Statements } from '../src/database/statements.js';

/** Longer ones write thousands of rows and are alike but for their number. */
const LONGEST = 20_000;

const folder = process.env.AUK_STATEMENTS;
if (folder) {
  const known = new Set<string>();
  Statements.listen(sql => {
    if (sql.length > LONGEST || known.has(sql)) return;
    known.add(sql);
    appendFileSync(join(folder, `${process.pid}.jsonl`), `${JSON.stringify(sql)}\n`);
  });
}
