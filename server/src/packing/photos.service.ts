import type { PhotoQuery, PhotoRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, isDuplicate } from '../database/db.js';
import { pictureType } from '../http/pictureType.js';
import { Malformed, NotHere } from '../http/problem.js';
import { event, toHistory } from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { OrderPhoto } from './orderPhoto.entity.js';
import { forgetPhotos, orderOfSession, photosOf } from './packing.queries.js';

/** Pictures of open boxes, kept with their orders as long as the house says. */
@Injectable()
export class Photos {
  constructor(
    private readonly db: Db,
    private readonly scans: ScansService,
  ) {}

  /** Keeps a picture once, however often it is sent. */
  async keep(
    sessionId: string,
    { id, at, maker }: { id: string } & PhotoQuery,
    bytes: Buffer,
    doer: Doer,
  ): Promise<void> {
    if (pictureType(bytes) !== 'image/jpeg')
      throw new Malformed('That is no picture that a camera takes (JPEG)', 'Take the photo again.');
    await this.db.tx(doer, async tx => {
      await this.scans.inNameOf(tx, maker);
      const session = await orderOfSession(tx, sessionId);
      if (!session) throw new NotHere('That packing session', 'Scan the slip of the order.');
      const { orderId } = session;
      try {
        await tx.insert(OrderPhoto, [
          { id, orderId, takenAt: new Date(at), at: tx.at, personId: tx.personId, bytes },
        ]);
      } catch (error) {
        if (isDuplicate(error)) return;
        throw error;
      }
      await toHistory(tx, [event(tx, orderId, 'photo', 'A photo of the open box was kept.')]);
      await tx.tell('orders', orderId);
    });
  }

  async of(orderId: string): Promise<PhotoRow[]> {
    const rows = await photosOf(this.db, orderId);
    return rows.map(({ takenAt, ...r }) => ({ ...r, takenAt: takenAt.toISOString() }));
  }

  async file(id: string): Promise<Buffer> {
    const photo = await this.db.of(OrderPhoto).findOneBy({ id });
    if (!photo) throw new NotHere('That photo', 'It was kept as long as Setup > Upkeep says.');
    return photo.bytes;
  }

  async forget(days: number): Promise<void> {
    await forgetPhotos(this.db, days);
  }
}
