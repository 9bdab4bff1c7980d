import type { ChannelView } from '@auk/contract';
import { fromJson } from '../database/db.js';
import { HAND, HOUSE_CHANNELS } from '../records/records.module.js';
import { unseal } from '../reference/sealing.js';
import { type ChannelAdapter, ChannelTrouble } from './adapter.js';
import type { LinkRow } from './channels.queries.js';
import { CHANNEL_KINDS } from './kinds.js';

function keyOf(link: LinkRow): string {
  try {
    return unseal(link.keySealed);
  } catch {
    throw new ChannelTrouble(
      `The key of ${link.name} cannot be opened with this house’s secret. Enter it again in Setup.`,
    );
  }
}

/** The adapter of a connected channel, with its key. */
export function adapterOf(link: LinkRow): ChannelAdapter {
  const kind = CHANNEL_KINDS.find(k => k.kind === link.kind);
  if (!kind)
    throw new ChannelTrouble(`There is no kind of channel “${link.kind}” any more. Choose another in Setup.`);
  return kind.open({ name: link.name, address: link.address, key: keyOf(link), currency: link.currency });
}

/** The last letters of a sealed key, or null when this house's secret does not open it. */
function endOf(sealed: string): string | null {
  try {
    return unseal(sealed).slice(-3);
  } catch {
    return null;
  }
}

/** A channel as the page of channels shows it. */
export function toView(r: Record<string, unknown>): ChannelView {
  const iso = (v: unknown) => (v instanceof Date ? v.toISOString() : null);
  return {
    code: String(r.code),
    name: String(r.name),
    brand: String(r.brand),
    currency: String(r.currency),
    listings: Number(r.listings),
    unlinked: Number(r.unlinked),
    own: r.code === HAND || HOUSE_CHANNELS.includes(String(r.code)),
    link: r.kind
      ? {
          kind: String(r.kind),
          address: String(r.address),
          keyEnds: endOf(String(r.keySealed)),
          everyMinutes: Number(r.everyMinutes),
          active: Boolean(r.active),
          doing: r.doing as string | null,
          triedAt: iso(r.triedAt),
          succeededAt: iso(r.succeededAt),
          error: r.error as string | null,
          lastCounts: r.lastCounts ? fromJson(r.lastCounts) : null,
          nextPullAt: iso(r.pullAt)!,
          pushedAt: iso(r.pushedAt),
          pushError: r.pushError as string | null,
        }
      : null,
  };
}
