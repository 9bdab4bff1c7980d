import { Injectable } from '@nestjs/common';
import { newId, type Tx } from '../database/db.js';
import { Forbidden } from '../http/problem.js';
import { Lot } from './lot.entity.js';
import { addLot, lockLot } from './lots.queries.js';

/** Lots of products, known by the code that is printed on them. */
@Injectable()
export class Lots {
  /** The lot with a code, made when it is new; a known one with another expiry is refused. */
  async of(tx: Tx, productId: string, code: string, expiry: string | null): Promise<string> {
    await addLot(tx, newId(), productId, code, expiry);
    const lot = (await lockLot(tx, productId, code))!;
    if (expiry && lot.expiry && lot.expiry !== expiry)
      throw new Forbidden(
        `Lot ${code} is known with the expiry ${lot.expiry}, not ${expiry}.`,
        'Look at the print; one of the two is another lot.',
      );
    if (expiry && !lot.expiry) await tx.of(Lot).update({ id: lot.id }, { expiry });
    return lot.id;
  }
}
