import type { Tx } from '../database/db.js';

/** Stand-ins listen on another port at every start: printers and scales that are stand-ins follow. */
export async function movePrinters(tx: Tx, standins: string, scaleAt: string): Promise<void> {
  await tx.run("UPDATE bench SET scaleAt = ? WHERE scaleAt LIKE '127.0.0.1:%'", [scaleAt]);
  await tx.run(
    "UPDATE printer SET url = CONCAT(?, SUBSTRING(url FROM LOCATE('/printers/', url))) WHERE url LIKE 'http://127.0.0.1:%/printers/%'",
    [standins],
  );
}
