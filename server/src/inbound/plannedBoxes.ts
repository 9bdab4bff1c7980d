import type { InboundBoxView } from '@auk/contract';
import { fromJson } from '../database/db.js';
import type { PlannedBoxes } from '../packing/packing.module.js';
import type { InboundPart } from './inboundPart.entity.js';
import { type Loaded, mustBeKnown } from './loading.service.js';

/** What the bench packs a part by: the planned boxes, and the most that the network takes of one. */
export const boxesHold = (part: Pick<InboundPart, 'boxes'>, loaded: Loaded): PlannedBoxes => ({
  mostMg: mustBeKnown(loaded).limits.mostMg,
  lasts: loaded.lasts,
  boxes: fromJson<InboundBoxView[]>(part.boxes).map(b => ({
    code: b.code,
    holds: Object.fromEntries(b.contents.map(c => [c.sku, c.units])),
  })),
});
