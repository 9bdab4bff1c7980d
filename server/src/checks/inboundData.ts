import { type InboundStage, leastAdvanced } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { Difference } from './checkData.js';
import { onTheirWay, stagesOfParts } from './inboundData.queries.js';

/** What lies on the way to centers follows from what left, was counted and was given up; a shipment's stage from those of its parts. */
export async function inboundData(sql: Sql): Promise<Difference[]> {
  const ways = (await onTheirWay(sql)).map(r => ({
    what: 'on the way to a center',
    where: r.where,
    stored: String(r.stored),
    derived: String(r.derived),
  }));
  const stages = new Map<string, { stored: InboundStage; parts: InboundStage[] }>();
  for (const { no, stage, part } of await stagesOfParts(sql)) {
    const known = stages.get(no) ?? { stored: stage, parts: [] };
    stages.set(no, { ...known, parts: [...known.parts, part] });
  }
  const wrong = [...stages]
    .map(([where, s]) => ({ where, stored: s.stored, derived: leastAdvanced(s.parts) }))
    .filter(s => s.stored !== s.derived);
  return [...ways, ...wrong.map(s => ({ what: 'stage of a shipment to centers', ...s }))];
}
