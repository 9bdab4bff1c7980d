import { Injectable } from '@nestjs/common';
import { ChannelsService } from '../channels/channels.module.js';
import { Db, type Tx } from '../database/db.js';
import { JobsService } from '../jobs/jobs.module.js';
import { event, toHistory } from '../records/records.module.js';
import { channelsOfParcels, whatToTell } from './telling.queries.js';

const KIND = 'tell tracking';
/** A channel may be down for days; after this a person is asked. */
const TRY_HOURS = 72;

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
    const rows = await channelsOfParcels(tx, [...parcelIds]);
    await this.jobs.add(
      tx,
      rows.map(r => ({ kind: KIND, lane: r.channelId, payload: { parcelId: r.id }, subjectId: r.id })),
    );
  }

  /** Tells the channel of each order that travels in a parcel: the parcel's own, and those that were put together with it. A split order is told under the number of the order it was split off. */
  private async tell(parcelId: string): Promise<void> {
    const rows = await whatToTell(this.db, parcelId);
    for (const { orderId, channelId, ...told } of rows) {
      const key = rows.length === 1 ? parcelId : `${parcelId} ${told.channelNumber}`;
      if (!(await this.channels.tell(channelId, channel => channel.tellTracking({ key, ...told })))) continue;
      await this.db.tx({ personId: null, at: new Date() }, async tx => {
        await toHistory(tx, [
          event(tx, orderId, 'told', `The channel was told the tracking number ${told.tracking}.`),
        ]);
        await tx.tell('orders', orderId);
      });
    }
  }
}
