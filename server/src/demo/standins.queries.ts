import type { CarrierRow } from '../carriers/carrier.entity.js';
import type { CarrierAccount } from '../carriers/carrierAccount.entity.js';
import type { Channel } from '../channels/channel.entity.js';
import type { Tx } from '../database/db.js';

/** Stand-ins listen on another port at every start: printers and scales that are stand-ins follow. */
export async function movePrinters(tx: Tx, standins: string, scaleAt: string): Promise<void> {
  await tx.run("UPDATE bench SET scaleAt = ? WHERE scaleAt LIKE '127.0.0.1:%'", [scaleAt]);
  await tx.run(
    "UPDATE printer SET url = CONCAT(?, SUBSTRING(url FROM LOCATE('/printers/', url))) WHERE url LIKE 'http://127.0.0.1:%/printers/%'",
    [standins],
  );
}

export function carriersKnown(tx: Tx): Promise<Pick<CarrierRow, 'code'>[]> {
  return tx.rows('SELECT code FROM carrier');
}

export function carrierAccounts(tx: Tx): Promise<Pick<CarrierAccount, 'id' | 'carrier' | 'number'>[]> {
  return tx.rows('SELECT id, carrier, number FROM carrierAccount');
}

/** The same for carriers. */
export async function moveCarriers(tx: Tx, standins: string): Promise<void> {
  await tx.run("UPDATE carrier SET address = CONCAT(?, '/', code) WHERE address LIKE 'http://127.0.0.1:%'", [
    standins,
  ]);
}

export function channelCodes(tx: Tx): Promise<Pick<Channel, 'id' | 'code'>[]> {
  return tx.rows('SELECT id, code FROM channel');
}

export async function hasTemplates(tx: Tx): Promise<boolean> {
  return (await tx.one('SELECT id FROM mailTemplate LIMIT 1')) !== null;
}
