import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import type { Scan } from '../scans/scan.js';
import {
  openPrepare,
  type PrepareLine,
  type PrepareState,
  prepareDone,
  prepareScan,
} from './prepareSession.js';

let made = 0;
const scan = (text: string, known?: Scan['known']): Scan => ({
  id: String(++made),
  text,
  at: '2026-11-27T08:00:00.000Z',
  device: 'd',
  count: made,
  ...(known && { known }),
});
const line = (sku: string, wanted: number, more: Partial<PrepareLine>): PrepareLine => ({
  id: sku,
  product: sampleProduct(sku, 6, `CODE-${sku}`),
  needs: ['bag'],
  label: null,
  wanted,
  done: 0,
  spoiled: 0,
  ...more,
});
const open = () =>
  openPrepare('IN-7', 'Amber Comb', [
    line('JAR', 8, { needs: ['bubble', 'label'], label: 'LABEL-JAR' }),
    line('VEIL', 7, {}),
    line('BOOK', 2, { needs: ['label'], label: 'CODE-BOOK' }),
  ]);
const play = (from: PrepareState, ...texts: string[]) => {
  let step = prepareScan(from, scan(texts[0]!));
  for (const t of texts.slice(1)) step = prepareScan(step.state, scan(t));
  return step;
};

test('a piece prints its label, and the scan of the label counts it', () => {
  const taken = play(open(), 'CODE-JAR');
  expect(taken.effects).toEqual([{ type: 'print', lineId: 'JAR', labels: 1 }]);
  expect(taken.answer).toMatchObject({
    says: '1 label for jar.',
    next: 'Wrap it in bubble film, put the label on and scan it. 1 label to put on.',
  });
  const labelled = play(taken.state, 'LABEL-JAR');
  expect(labelled.effects).toEqual([{ type: 'done', lineId: 'JAR', units: 1 }]);
  expect(labelled.answer.says).toBe('1 of 8 jar.');
});

test('what gets no label counts by itself, a case its pack; a number and ALL go for more of it', () => {
  expect(play(open(), 'CODE-VEIL').effects).toEqual([{ type: 'done', lineId: 'VEIL', units: 1 }]);
  const box = play(open(), 'CASE-VEIL');
  expect(box.answer).toMatchObject({ tone: 'right', says: '6 of 7 veil.' });
  expect(play(box.state, 'AUK-ALL').answer).toMatchObject({ tone: 'row', says: '7 of 7 veil.' });
  expect(play(box.state, '2').answer).toMatchObject({
    tone: 'wrong',
    says: 'Too many: only 1 piece of veil left to take in hand.',
  });
  expect(play(open(), '2').answer.says).toBe('Scan one piece first, so that it is surely the right product.');
  const many = play(open(), 'CODE-JAR', '3');
  expect(many.state.at).toEqual({ line: 0, labels: 4 });
  expect(many.effects).toEqual([{ type: 'print', lineId: 'JAR', labels: 3 }]);
});

test('a label that is the code of the piece itself prints first and counts after', () => {
  const taken = play(open(), 'CODE-BOOK');
  expect(taken.effects).toEqual([{ type: 'print', lineId: 'BOOK', labels: 1 }]);
  expect(play(taken.state, 'CODE-BOOK').effects).toEqual([{ type: 'done', lineId: 'BOOK', units: 1 }]);
});

test('a label of a sheet counts without a print; other goods wait until printed labels are on', () => {
  expect(play(open(), 'LABEL-JAR').effects).toEqual([{ type: 'done', lineId: 'JAR', units: 1 }]);
  const waiting = play(open(), 'CODE-JAR', 'CODE-VEIL');
  expect(waiting.answer).toMatchObject({ tone: 'wrong', says: '1 label for jar is not on a piece yet.' });
  expect(waiting.effects).toEqual([]);
});

test('once one of the printed labels is scanned on its piece, ALL or a number counts the others, and UNDO takes them back', () => {
  const printed = play(open(), 'CODE-JAR', 'AUK-ALL');
  expect(printed.state.at).toEqual({ line: 0, labels: 8 });
  // Labels that nobody has scanned may not read, or be those of something else.
  expect(play(printed.state, 'AUK-ALL').answer).toMatchObject({
    says: 'No more jar are to be taken in hand.',
    next: 'Put the labels on and scan one of them; ALL counts the others then.',
  });
  expect(play(printed.state, 'CODE-VEIL').answer).toMatchObject({
    says: '8 labels for jar are not on a piece yet.',
    next: 'Put them on, scan one and then ALL, or scan UNDO and throw them away.',
  });
  const one = play(printed.state, 'LABEL-JAR');
  expect(play(one.state, '8').answer.says).toBe('Too many: 7 labels of jar to put on.');
  const three = play(one.state, '3');
  expect(three.effects).toEqual([{ type: 'done', lineId: 'JAR', units: 3 }]);
  const rest = play(three.state, 'AUK-ALL');
  expect(rest.effects).toEqual([{ type: 'done', lineId: 'JAR', units: 4 }]);
  expect(rest.answer).toMatchObject({ tone: 'row', says: '8 of 8 jar.', next: 'Scan another piece.' });
  const back = play(rest.state, 'AUK-UNDO');
  expect(back.state.at).toEqual({ line: 0, labels: 4 });
  expect(back.effects).toEqual([{ type: 'done', lineId: 'JAR', units: -4 }]);
  // While more are to be taken in hand, ALL takes them in hand.
  expect(play(open(), 'CODE-JAR', '2', 'LABEL-JAR', 'AUK-ALL').effects).toEqual([
    { type: 'print', lineId: 'JAR', labels: 5 },
  ]);
  expect(play(open(), 'CODE-VEIL', 'AUK-ALL', 'AUK-ALL').answer.says).toBe(
    'No more veil are to be taken in hand.',
  );
});

test('a spoiled piece is written off and its label is for the next; undo takes a label or a unit back', () => {
  const spoiled = play(open(), 'CODE-JAR', 'AUK-SPOILED');
  expect(spoiled.effects).toEqual([{ type: 'spoil', lineId: 'JAR' }]);
  expect(spoiled.state.lines[0]).toMatchObject({ done: 0, spoiled: 1 });
  expect(spoiled.state.at).toEqual({ line: 0, labels: 1 });
  expect(play(open(), 'AUK-SPOILED').answer.says).toBe('Scan the piece first that is spoiled.');
  const undone = play(spoiled.state, 'LABEL-JAR', 'AUK-UNDO');
  expect(undone.effects).toEqual([{ type: 'done', lineId: 'JAR', units: -1 }]);
  expect(undone.answer.says).toBe('Undone: 0 of 8 jar.');
  const thrown = play(undone.state, 'AUK-UNDO');
  expect(thrown.answer.says).toBe('Undone: throw 1 label for jar away.');
  expect(thrown.effects).toEqual([]);
  expect(play(thrown.state, 'AUK-UNDO').answer.says).toBe('There is nothing to undo here.');
});

test('what is not prepared here, or too many, is refused with what to do', () => {
  expect(play(open(), 'X-1').answer.says).toBe('Nothing that is prepared for Amber Comb has the code X-1.');
  const known = prepareScan(open(), scan('X-2', { kind: 'product', name: 'Smoker' }));
  expect(known.answer.says).toBe('Smoker is not prepared for Amber Comb here.');
  const all = play(open(), 'CODE-VEIL', 'AUK-ALL');
  expect(play(all.state, 'CODE-VEIL').answer.says).toBe('All 7 veil are prepared; this is one too many.');
  expect(play(open(), 'AUK-LABEL').answer.says).toBe('"label" does nothing at preparing.');
});

test('whatever is scanned, units and labels never exceed what is wanted, and effects add up to what is done', () => {
  const text = fc.constantFrom(
    'CODE-JAR',
    'LABEL-JAR',
    'CASE-JAR',
    'CODE-VEIL',
    'CASE-VEIL',
    'CODE-BOOK',
    '2',
    'AUK-ALL',
    'AUK-UNDO',
    'AUK-SPOILED',
    'X',
  );
  fc.assert(
    fc.property(fc.array(text, { maxLength: 40 }), texts => {
      let state = open();
      const sum = new Map<string, number>();
      for (const t of texts) {
        const step = prepareScan(state, scan(t));
        if (step.answer.kind === 'refused' && (step.state !== state || step.effects.length > 0)) return false;
        for (const e of step.effects)
          if (e.type === 'done') sum.set(e.lineId, (sum.get(e.lineId) ?? 0) + e.units);
        state = step.state;
      }
      const out = (i: number) => (state.at?.line === i ? state.at.labels : 0);
      return (
        state.lines.every(
          (l, i) =>
            l.done >= 0 && out(i) >= 0 && l.done + out(i) <= l.wanted && (sum.get(l.id) ?? 0) === l.done,
        ) && prepareDone(state) === state.lines.every(l => l.done === l.wanted)
      );
    }),
    { numRuns: 500 },
  );
});
