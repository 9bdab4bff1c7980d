import { openPack, type PackLine, type PackState } from '@auk/core';
import { expect, test } from 'vitest';
import { answerOf } from './packAnswer.js';
import type { LabelDesk } from './useLabelDesk.js';

const LINE: PackLine = {
  id: 'jar',
  product: { id: 'jar', sku: 'JAR', name: 'jar', codes: [], picture: null, hint: null },
  wanted: 1,
  packed: 0,
  kitParts: [],
  bundle: null,
  piece: null,
  wants: {},
  optional: false,
  leftOut: 0,
};
const open = openPack({ orderNo: 'OR-1', lines: [LINE], boxes: [] });
const whole: PackState = { ...open, lines: [{ ...LINE, packed: 1 }] };
const closed: PackState = { ...whole, parcels: whole.parcels.map(p => ({ ...p, closed: true })) };
const DESK: LabelDesk = {
  offers: undefined,
  more: 0,
  label: null,
  misfit: null,
  busy: false,
  held: null,
  problem: null,
  buy: () => {},
  buyFirst: () => {},
  askAgain: () => {},
  givenBack: () => {},
};
const label = (state: 'bought' | 'refused' | 'unknown', why: string | null = null) =>
  ({ state, service: 'Redfen Ground', why }) as NonNullable<LabelDesk['label']>;

interface Now {
  state?: PackState;
  desk?: Partial<LabelDesk>;
  offline?: boolean;
  trouble?: Parameters<typeof answerOf>[4];
  inbound?: Parameters<typeof answerOf>[5];
  last?: Parameters<typeof answerOf>[0];
}
const said = ({
  state = open,
  desk = {},
  offline = false,
  trouble = null,
  inbound = null,
  last = null,
}: Now) => answerOf(last, state, { ...DESK, ...desk }, offline, trouble, inbound);
const SHIPMENT = { name: 'Calm Shoal', center: 'Columbus' } as NonNullable<Now['inbound']>;

test('an open order says what to scan, or what was said last', () => {
  expect(said({})).toMatchObject({ says: 'Scan the pieces.', tone: 'info' });
  expect(said({ state: whole }).says).toBe('Everything is in.');
  const last = { says: 'Right. 1 of 1 jar.', next: 'Close it.', tone: 'right' } as NonNullable<Now['last']>;
  expect(said({ last })).toBe(last);
});

test('what must be read or answered comes before anything else is asked for', () => {
  const noted: PackState = {
    ...open,
    notes: [{ text: 'Gift, no slip', word: null, confirmed: false }],
  };
  expect(said({ state: noted })).toMatchObject({ says: 'Read this: Gift, no slip', tone: 'attention' });
});

test('an order that is opened again in the middle of a question asks it again', () => {
  const asking = { about: 'weight', mg: 900_000, says: '2 lb is about one jar too light.' } as const;
  expect(said({ state: { ...whole, asking } })).toMatchObject({ says: asking.says, tone: 'attention' });
  const unit = { about: 'unit', moves: [{ line: 0, units: 1 }], told: {} } as const;
  const serial = { ...open, lines: [{ ...LINE, wants: { serial: 'HS-9999' } }] };
  expect(said({ state: { ...serial, asking: { ...unit, moves: [...unit.moves] } } })).toMatchObject({
    says: 'The serial number of jar?',
    next: 'Scan the serial number of jar, such as HS-9999.',
  });
});

test('a closed parcel asks for its service, and says so while the label is bought', () => {
  expect(said({ state: closed })).toMatchObject({ says: 'Choose the service.', tone: 'complete' });
  expect(said({ state: closed, desk: { busy: true } }).says).toBe('Buying the label …');
  expect(said({ state: { ...closed, choices: { ...closed.choices, checkOnly: true } } }).says).toBe(
    'Checked and closed.',
  );
});

test.each([
  [{ label: label('bought') }, 'Label bought, Redfen Ground.', 'complete'],
  [{ label: label('bought'), misfit: 'It is in another box.' }, 'It is in another box.', 'wrong'],
  [{ label: label('refused', 'Too heavy.') }, 'The label was refused.', 'wrong'],
  [{ label: label('unknown', 'It is late.') }, 'The carrier has not answered.', 'info'],
] as const)('what became of the label is said: %#', (desk, says, tone) => {
  expect(said({ state: closed, desk })).toMatchObject({ says, tone });
});

test('why a carrier refused or was silent stands before what to do', () => {
  expect(said({ state: closed, desk: { label: label('refused', 'Too heavy.') } }).next).toBe(
    'Too heavy. Choose another service.',
  );
  expect(said({ state: closed, desk: { label: label('unknown', 'It is late.') } }).next).toMatch(
    /^It is late\. Auk asks again; nothing is bought twice/,
  );
});

test('trouble stands until the next scan, before what the label says', () => {
  const trouble = { says: 'No such product.', cure: 'Scan another.' };
  expect(said({ state: closed, trouble, desk: { label: label('bought') } })).toEqual({
    says: 'No such product.',
    next: 'Scan another.',
    tone: 'wrong',
  });
  expect(said({ trouble: { ...trouble, tone: 'right' } }).tone).toBe('right');
  expect(said({ desk: { problem: { says: 'No price.', cure: 'Ask again.' } } })).toMatchObject({
    says: 'No price.',
    tone: 'wrong',
  });
});

test('without a network the label of a closed parcel waits; boxes of a shipment want none', () => {
  expect(said({ state: closed, offline: true })).toMatchObject({ says: 'Packed. The label waits.' });
  expect(said({ state: open, offline: true }).says).toBe('Scan the pieces.');
  expect(said({ state: closed, offline: true, inbound: SHIPMENT }).says).toBe(
    'All boxes of Calm Shoal for Columbus are packed.',
  );
});
