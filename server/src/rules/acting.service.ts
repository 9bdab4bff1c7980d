import { actionWords, did, group, type Ruled, type RuledTemplate, type RunGround, runBook } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, type Tx } from '../database/db.js';
import { ruleEvent, toHistory } from '../records/records.module.js';
import { type OutcomeOf, outcomesOf } from './acting.queries.js';
import { Deciding } from './deciding.service.js';
import { Deeds } from './deeds.service.js';
import type { OrderGround } from './grounds.service.js';
import { actorOf, type Prepared, type Ran } from './prepared.js';
import { RuleOutcome } from './ruleOutcome.entity.js';

/** What an outcome is stored with: enough to compute it again. */
export interface StoredGround extends RunGround {
  currency: string;
  templates: Record<string, RuledTemplate>;
}

/** Carries out what a book decides, for many orders in one transaction. The orders are locked, or made, by who asks. */
@Injectable()
export class RuleActing {
  constructor(
    private readonly deciding: Deciding,
    private readonly deeds: Deeds,
  ) {}

  /** Runs the book on orders and does what it says; a moment that comes again decides its fields anew, and does nothing twice. */
  async run(tx: Tx, p: Prepared, grounds: readonly OrderGround[]): Promise<Ran[]> {
    const ran = grounds.map(ground => ({ ground, ruled: runBook(p.compiled, ground) }));
    const stored = await outcomesOf(
      tx,
      grounds.map(g => g.orderId),
    );
    const outcomes = group(
      stored.map((o): OutcomeOf => ({ ...o, ruled: fromJson<Ruled>(o.ruled) })),
      o => o.orderId,
    );
    const isThis = (o: OutcomeOf) => o.moment === p.moment && o.button === p.button;
    const mine = (r: Ran) => outcomes.get(r.ground.orderId)?.find(isThis);
    // An order of which nothing is said now, and nothing was before, is left alone.
    const does = ({ ruled }: Ran) => ruled.acted.some(id => did(p.rules.get(id)!, ruled));
    const said = ran.filter(r => does(r) || r.ruled.waiting.length > 0 || mine(r));
    if (said.length === 0) return ran;
    const other = said.filter(r => p.button !== '' || !sameOutcome(mine(r)?.ruled, r.ruled));
    const earlier = new Map([...outcomes].map(([id, all]) => [id, all.filter(o => !isThis(o))]));
    await tx.upsert(
      RuleOutcome,
      said.map(r => outcomeRow(tx, p, r)),
      ['bookNo', 'ground', 'ruled', 'at'],
    );
    await this.deciding.store(tx, p, said, earlier);
    await this.deeds.do(tx, p, said);
    await toHistory(
      tx,
      other.flatMap(r => historyOf(tx, p, r)),
    );
    return ran;
  }
}

const sameOutcome = (a: Ruled | undefined, b: Ruled): boolean =>
  a !== undefined &&
  JSON.stringify([a.acted, a.fields, a.added]) === JSON.stringify([b.acted, b.fields, b.added]);

function outcomeRow(tx: Tx, p: Prepared, { ground, ruled }: Ran) {
  const { facts, lines, offers, promised } = ground;
  const stored: StoredGround = {
    facts,
    lines,
    offers,
    promised,
    currency: p.compiled.currency,
    templates: Object.fromEntries(p.compiled.templates),
  };
  return {
    orderId: ground.orderId,
    moment: p.moment,
    button: p.button,
    bookNo: p.running.no,
    ground: JSON.stringify(stored),
    ruled: JSON.stringify(ruled),
    at: tx.at,
  };
}

/** A row for each rule that acted, under its own name. */
function historyOf(tx: Tx, p: Prepared, { ground, ruled }: Ran) {
  return ruled.acted.flatMap(id => {
    const rule = p.rules.get(id)!;
    // Where no line meets what lines must meet, nothing was done.
    if (rule.do.length === 0 || !did(rule, ruled)) return [];
    const does = rule.do.map(a => actionWords(a, p.calls)).join(', ');
    return [ruleEvent(tx, ground.orderId, actorOf(p, id), `${rule.name}: ${does}.`)];
  });
}
