import { Injectable } from '@nestjs/common';
import { ChannelsService } from '../channels/channels.module.js';
import { Db, type Tx } from '../database/db.js';
import { JobsService } from '../jobs/jobs.module.js';
import { event, toHistory } from '../records/records.module.js';
import { piecesToTell, returnToTell } from './returns.queries.js';

const KIND = 'tell return';
/** A channel may be down for days; after this a person is asked. */
const TRY_HOURS = 72;

/** Tells channels what came back, until they have heard it. */
@Injectable()
export class TellingReturns {
  constructor(
    private readonly db: Db,
    private readonly channels: ChannelsService,
    private readonly jobs: JobsService,
  ) {
    jobs.register<{ receiptId: string }>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: job => this.tell(job.payload.receiptId),
    });
  }

  /** Sees to it that the channel of a parcel's order is told. */
  async soon(tx: Tx, receiptId: string): Promise<void> {
    const told = await returnToTell(tx, receiptId);
    if (told)
      await this.jobs.add(tx, [
        { kind: KIND, lane: told.channelId, payload: { receiptId }, subjectId: told.parcelId },
      ]);
  }

  private async tell(receiptId: string): Promise<void> {
    const known = await returnToTell(this.db, receiptId);
    if (!known) return;
    const { orderId, channelId, channel, channelNumber, tracking } = known;
    const pieces = (await piecesToTell(this.db, receiptId)).map(({ judged, ...piece }) => ({
      ...piece,
      resold: judged === 'resell',
    }));
    const told = { key: receiptId, channel, channelNumber, tracking: tracking ?? '', pieces };
    if (!(await this.channels.tell(channelId, channel => channel.tellReturn(told)))) return;
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await toHistory(tx, [event(tx, orderId, 'told', 'The channel was told what came back.')]);
      await tx.tell('orders', orderId);
    });
  }
}
