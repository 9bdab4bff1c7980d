import { Injectable } from '@nestjs/common';
import { ChannelsService } from '../channels/channels.module.js';
import { Db, type Tx } from '../database/db.js';
import { JobsService } from '../jobs/jobs.module.js';
import { event, toHistory } from '../records/records.module.js';

const KIND = 'tell tracking';
/** A channel may be down for days; after this a person is asked. */
const TRY_HOURS = 72;

interface Told {
  orderId: string;
  channelId: string;
  channel: string;
  channelNumber: string;
  carrier: string;
  tracking: string;
}

/** Tells channels which parcels left, until they have heard it. */
@Injectable()
export class Telling {
  constructor(
    private readonly db: Db,
    private readonly channels: ChannelsService,
    private readonly jobs: JobsService,
  ) {
    jobs.register<{ parcelId: string }>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: job => this.tell(job.payload.parcelId),
    });
  }

  /** Sees to it that the channels of some parcels are told. */
  async soon(tx: Tx, parcelIds: readonly string[]): Promise<void> {
    const rows = await tx.rows<{ id: string; channelId: string }>(
      'SELECT c.id, o.channelId FROM parcel c JOIN orders o ON o.id = c.orderId WHERE c.id IN (?)',
      [[...parcelIds]],
    );
    await this.jobs.add(
      tx,
      rows.map(r => ({ kind: KIND, lane: r.channelId, payload: { parcelId: r.id }, subjectId: r.id })),
    );
  }

  /** Tells the channel of each order that travels in a parcel: the parcel's own, and those that were put together with it. A split order is told under the number of the order it was split off. */
  private async tell(parcelId: string): Promise<void> {
    const rows = await this.db.rows<Told>(
      `SELECT o.id AS orderId, h.id AS channelId, h.code AS channel, COALESCE(r.channelNumber, o.channelNumber) AS channelNumber, b.carrierName AS carrier, b.tracking
       FROM parcel c JOIN orders o ON o.id = c.orderId OR o.mergedIntoId = c.orderId LEFT JOIN orders r ON r.id = o.splitOfId
       JOIN channel h ON h.id = o.channelId JOIN purchase b ON b.liveParcel = c.id WHERE c.id = ? ORDER BY o.no`,
      [parcelId],
    );
    for (const { orderId, channelId, ...told } of rows) {
      const key = rows.length === 1 ? parcelId : `${parcelId} ${told.channelNumber}`;
      if (!(await this.channels.tellTracking(channelId, { key, ...told }))) continue;
      await this.db.tx({ personId: null, at: new Date() }, async tx => {
        await toHistory(tx, [
          event(tx, orderId, 'told', `The channel was told the tracking number ${told.tracking}.`),
        ]);
        await tx.tell('orders', orderId);
      });
    }
  }
}
