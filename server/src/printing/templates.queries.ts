import { type PaperTemplate } from '@auk/contract';
import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';

export interface Record extends Omit<PaperTemplate, 'channel' | 'prices' | 'metric'> {
  channel: string | null;
  prices: number;
  metric: number;
}

export function templates(sql: Sql): Promise<Record[]> {
  return sql.rows(
    'SELECT t.id, t.kind, t.name, t.position, c.code AS channel, t.country, t.buyer, t.heading, t.message, t.prices, t.metric FROM paperTemplate t LEFT JOIN channel c ON c.id = t.channelId ORDER BY t.kind, t.position, t.id DESC',
  );
}

export function channelByCode(sql: Sql, channel: string): Promise<Pick<Channel, 'id'> | null> {
  return sql.one('SELECT id FROM channel WHERE code = ?', [channel]);
}
