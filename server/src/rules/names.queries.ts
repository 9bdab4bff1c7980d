import type { Product } from '../catalog/product.entity.js';
import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';
import type { MailTemplate } from '../mails/mailTemplate.entity.js';
import type { OrderTag } from '../orders/orderTag.entity.js';
import type { PaperTemplate } from '../printing/paperTemplate.entity.js';

const MOST = 2_000;

export function channelNames(sql: Sql): Promise<Pick<Channel, 'name'>[]> {
  return sql.rows('SELECT name FROM channel ORDER BY name');
}

/** Products that orders may have; of very many the first by SKU, others are typed. */
export function productNames(sql: Sql): Promise<Pick<Product, 'sku' | 'name'>[]> {
  return sql.rows(`SELECT sku, name FROM product WHERE stage <> 'Retired' ORDER BY sku LIMIT ${MOST}`);
}

export function categoriesInUse(sql: Sql): Promise<{ category: string }[]> {
  return sql.rows(
    "SELECT DISTINCT JSON_VALUE(facts, '$.category') AS category FROM product WHERE JSON_VALUE(facts, '$.category') <> '' ORDER BY category",
  );
}

export function tagsInUse(sql: Sql): Promise<Pick<OrderTag, 'tag'>[]> {
  return sql.rows(`SELECT DISTINCT tag FROM orderTag ORDER BY tag LIMIT ${MOST}`);
}

export function paperNames(sql: Sql): Promise<Pick<PaperTemplate, 'kind' | 'name'>[]> {
  return sql.rows('SELECT DISTINCT kind, name FROM paperTemplate ORDER BY name');
}

/** Mails that rules may send, by their names. */
export function mailNames(sql: Sql): Promise<Pick<MailTemplate, 'name'>[]> {
  return sql.rows("SELECT name FROM mailTemplate WHERE moment = 'rule' AND inUse ORDER BY name");
}
