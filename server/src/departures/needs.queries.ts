import type { NeedsPerson } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { HeldOrders } from '../records/records.module.js';

type Cause = Omit<NeedsPerson, 'job'>;

/** Most causes of one kind that are named. */
const NEEDS = 50;
/** A channel that could not be told for so long is shown to a person. */
const UNTOLD_MINUTES = 30;

const need = (
  code: string,
  subject: string,
  says: string,
  detail: string,
  cure: string,
  job: string | null = null,
): NeedsPerson => ({ code, subject, says, detail, cure, orders: 1, job });

/** What only a person can do. */
@Injectable()
export class NeedsQueries {
  constructor(
    private readonly db: Db,
    private readonly held: HeldOrders,
  ) {}

  /** What only a person can do, grouped by cause, most orders first. */
  async needs(): Promise<NeedsPerson[]> {
    const stops = await this.db.rows<Cause>(
      `SELECT s.code, s.subject, MIN(s.says) AS says, GROUP_CONCAT(DISTINCT o.channelNumber ORDER BY o.no SEPARATOR ', ') AS detail, MIN(s.cure) AS cure, COUNT(DISTINCT s.orderId) AS orders
       FROM stopReason s JOIN orders o ON o.id = s.orderId WHERE s.liftedAt IS NULL AND o.stage = 'Stopped' GROUP BY s.code, s.subject ORDER BY orders DESC, s.code, s.subject LIMIT ${NEEDS}`,
    );
    const short = await this.db.rows<Cause>(
      `SELECT 'short' AS code, x.sku AS subject, CONCAT(x.name, ' is short.') AS says, CONCAT(SUM(x.n), ' missing') AS detail, 'Receive or count it.' AS cure, COUNT(DISTINCT x.orderId) AS orders FROM
         (SELECT p.orderId, pr.sku, pr.name, p.quantity - COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = p.id), 0) AS n
          FROM orders o JOIN linePart p ON p.orderId = o.id JOIN product pr ON pr.id = p.productId WHERE o.stage = 'Short' AND NOT p.optional) x WHERE x.n > 0 GROUP BY x.sku, x.name ORDER BY orders DESC, x.sku LIMIT ${NEEDS}`,
    );
    const labels = await this.db.rows<Cause>(
      `SELECT 'label' AS code, CONCAT('PA-', c.no) AS subject, CONCAT('The label of PA-', c.no, ' has no answer yet.') AS says, COALESCE(b.why, '') AS detail, 'Auk asks the carrier again.' AS cure, 1 AS orders
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.state IN ('unknown', 'asked') LIMIT ${NEEDS}`,
    );
    const doubts = await this.db.rows<Cause>(
      `SELECT 'doubt' AS code, CONCAT('PA-', c.no) AS subject, CONCAT('Nobody can prove whether the label of PA-', c.no, ' was bought.') AS says, COALESCE(b.why, '') AS detail, 'Ask the carrier, then decide on the page of parcels.' AS cure, 1 AS orders
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.state = 'doubtful' LIMIT ${NEEDS}`,
    );
    const claims = await this.db.rows<Cause>(
      `SELECT 'claim' AS code, CONCAT('PA-', c.no) AS subject, CONCAT(b.carrierName, ' owes money for PA-', c.no, '.') AS says, r.why AS detail, 'Claim it, then close it on the page of parcels.' AS cure, 1 AS orders
       FROM refundClaim r JOIN label b ON b.id = r.labelId JOIN parcel c ON c.id = b.parcelId WHERE r.state = 'open' ORDER BY r.at LIMIT ${NEEDS}`,
    );
    const inbound = await this.db.rows<Cause>(
      `SELECT 'inbound' AS code, CONCAT('IN-', s.no) AS subject, CONCAT(s.name, IF(n.d > 0, ' was counted otherwise than it was sent.', ' is not booked.')) AS says, IF(n.d > 0, CONCAT(n.d, IF(n.d = 1, ' difference at ', ' differences at '), p.center), CONCAT(p.center, ': ', p.why)) AS detail,
         IF(n.d > 0, 'Claim it, write it off or book it.', IF(s.planNow IS NOT NULL, 'Take the changed plan on its page.', 'Ask for the price again, or give that center up.')) AS cure, 1 AS orders
       FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId JOIN (SELECT q.id, (SELECT COUNT(*) FROM inboundDifference d WHERE d.partId = q.id AND d.state = 'open') AS d FROM inboundPart q WHERE q.stage NOT IN ('Closed', 'Cancelled')) n ON n.id = p.id
       WHERE n.d > 0 OR (p.why IS NOT NULL AND p.bookState IN ('none', 'refused', 'unknown')) ORDER BY s.no LIMIT ${NEEDS}`,
    );
    const parked = await this.db.rows<Cause>(
      "SELECT 'parked' AS code, channelNumber AS subject, CONCAT(channelNumber, ' is parked.') AS says, parkedReason AS detail, 'Read why.' AS cure, 1 AS orders FROM orders WHERE stage = 'Parked' ORDER BY no LIMIT 50",
    );
    const held = (await this.held.parcels(this.db, NEEDS)).map(p =>
      need('held', `PA-${p.no}`, `PA-${p.no} is packed and must not go.`, p.says, p.cure),
    );
    const rest = [...doubts, ...labels, ...claims, ...stops, ...short, ...inbound, ...parked].map(n => ({
      ...n,
      job: null,
    }));
    return [
      ...held,
      ...(await this.untold()),
      ...(await this.filesLeft()),
      ...(await this.outside()),
      ...rest,
    ];
  }

  /** Parcels of which a channel could not be told for long, or is not told any more. */
  private async untold(): Promise<NeedsPerson[]> {
    const rows = await this.db.rows<{
      id: string;
      no: number;
      kind: string;
      state: string;
      error: string;
      channel: string;
    }>(
      `SELECT j.id, c.no, j.kind, j.state, j.error, h.name AS channel FROM job j JOIN parcel c ON c.id = j.subjectId JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId
       WHERE j.kind IN ('tell tracking', 'tell return') AND (j.state = 'given up' OR j.state = 'waiting' AND j.error IS NOT NULL AND j.createdAt < NOW(3) - INTERVAL ${UNTOLD_MINUTES} MINUTE) ORDER BY j.createdAt LIMIT ${NEEDS}`,
    );
    return rows.map(j => {
      const cure =
        j.state === 'given up'
          ? 'Auk has stopped trying. Try again when the channel is back.'
          : 'Auk tries on by itself; try again now if the channel is back.';
      return need(
        'untold',
        `PA-${j.no}`,
        `${j.channel} was not told that PA-${j.no} ${j.kind === 'tell return' ? 'came back' : 'left'}.`,
        j.error,
        cure,
        j.id,
      );
    });
  }

  /** Files that were not taken in whole, whatever was tried. */
  private async filesLeft(): Promise<NeedsPerson[]> {
    const rows = await this.db.rows<{
      id: string;
      name: string;
      taken: number;
      things: number;
      error: string;
    }>(
      `SELECT j.id, f.name, f.taken, f.things, j.error FROM job j JOIN importFile f ON f.id = j.subjectId WHERE j.state = 'given up' ORDER BY j.createdAt LIMIT ${NEEDS}`,
    );
    return rows.map(f =>
      need(
        'file',
        f.name,
        `${f.name} was taken in only in part: ${f.taken} of ${f.things}.`,
        f.error,
        'Auk has stopped trying. Try again; it goes on where it stood.',
        f.id,
      ),
    );
  }

  /** What carriers and mailboxes said no to, and buyers who wait for an answer. */
  private async outside(): Promise<NeedsPerson[]> {
    const days = await this.db.rows<{ id: string; no: number; state: string; error: string }>(
      `SELECT j.id, d.no, j.state, j.error FROM job j JOIN departure d ON d.id = j.subjectId
       WHERE j.kind = 'end of day' AND (j.state = 'given up' OR j.state = 'waiting' AND j.error IS NOT NULL AND j.createdAt < NOW(3) - INTERVAL ${UNTOLD_MINUTES} MINUTE) ORDER BY j.createdAt LIMIT ${NEEDS}`,
    );
    const mails = await this.db.rows<{ subject: string; toWhom: string; why: string; order: string | null }>(
      `SELECT m.subject, m.toWhom, m.why, o.channelNumber AS \`order\` FROM mail m LEFT JOIN orders o ON o.id = m.orderId WHERE m.state = 'bounced' AND m.at > NOW(3) - INTERVAL 14 DAY ORDER BY m.at DESC LIMIT ${NEEDS}`,
    );
    const asked = await this.db.rows<{ channelNumber: string; text: string; n: number }>(
      `SELECT o.channelNumber, MAX(m.text) AS text, COUNT(*) AS n FROM orderMessage m JOIN orders o ON o.id = m.orderId WHERE m.sender = 'buyer' AND m.readAt IS NULL GROUP BY o.id, o.channelNumber ORDER BY MIN(m.at) LIMIT ${NEEDS}`,
    );
    return [
      ...asked.map(m =>
        need(
          'message',
          m.channelNumber,
          `The buyer of ${m.channelNumber} wrote.`,
          m.text.slice(0, 120),
          'Answer it, or mark it as seen.',
        ),
      ),
      ...mails.map(m =>
        need(
          'mail',
          m.order ?? m.toWhom,
          `The mail “${m.subject}” came back.`,
          m.why,
          'Correct the address, then send it again under Setup > Mails.',
        ),
      ),
      ...days.map(j =>
        need(
          'day',
          `DE-${j.no}`,
          `The carrier was not told what left with DE-${j.no}, or knows it differently.`,
          j.error,
          'Call the carrier; then try again.',
          j.id,
        ),
      ),
    ];
  }
}
