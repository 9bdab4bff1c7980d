import type { BoardDeparture } from '@auk/contract';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { shown } from '../parts/shown.js';
import { DepartureRow } from './parts/DepartureRow.js';

const NOW = new Date('2026-11-25T20:00:00.000Z');
beforeEach(() => void vi.useFakeTimers({ now: NOW }));
afterEach(() => void vi.useRealTimers());

const at = (minutes: number) => new Date(NOW.getTime() + minutes * 60_000).toISOString();
const departure = (more: Partial<BoardDeparture>): BoardDeparture => ({
  id: 'd',
  no: 'DE-7',
  carrier: 'heron',
  carrierName: 'Heron Post',
  name: 'second collection',
  cutOff: at(95),
  state: 'open',
  freight: false,
  bar: { clear: 3, listed: 2, picked: 0, packed: 1, labelled: 4 },
  handedOver: 2,
  total: 10,
  readyAt: at(60),
  spare: 35,
  miss: 0,
  word: 'on time',
  pickers: 1,
  ...more,
});
const row = (more: Partial<BoardDeparture>, picking = 1) =>
  shown(<DepartureRow departure={departure(more)} zone="America/Boise" picking={picking} />).words;
const DONE = { clear: 0, listed: 0, picked: 0, packed: 0, labelled: 10 };

test('a departure tells its cut-off by the clock of the warehouse, who comes, what is where, and how it will end', () => {
  const words = row({});
  expect(words).toContain('14:35');
  expect(words).toContain('Heron Post second collection');
  expect(words).toContain('At this pace ready 14:00, 35 min to spare.');
  expect(words).toContain('✓ on time 1 h 35 min');
  // What is nowhere has no part of the bar.
  expect(words).not.toMatch(/Pi /);
});

test.each<[string, Partial<BoardDeparture>, string]>([
  [
    'late',
    { word: 'will miss', miss: 3, spare: -12, readyAt: at(107) },
    'At this pace ready 14:47, 12 min late.',
  ],
  ['late, counted', { word: 'will miss', miss: 3, spare: -12 }, '✕ 3 will miss'],
  ['tight', { word: 'tight' }, '! tight'],
  [
    'after its cut-off',
    { cutOff: at(-10), word: 'will miss', miss: 6 },
    'The cut-off is over. Close it: what has no label goes with the next.',
  ],
  ['after its cut-off, counted', { cutOff: at(-10), word: 'will miss', miss: 6 }, '✕ 6 missed 10 min ago'],
  ['labelled in time', { bar: DONE }, 'All labelled, 2 handed over.'],
  ['labelled and forgotten', { bar: DONE, cutOff: at(-10) }, '10 labelled and still here.'],
  ['nobody works on it yet', { readyAt: null, spare: null }, '6 not labelled yet.'],
  ['empty', { total: 0, bar: { ...DONE, labelled: 0 } }, 'Nothing planned for it yet.'],
  ['gone', { state: 'closed', handedOver: 1 }, 'Left with 1 parcel.'],
  ['called off', { state: 'cancelled' }, 'Called off: it does not come.'],
  ['pallets', { freight: true }, 'Pallets are counted by hand for now.'],
])('one that is %s says so', (_, more, words) => {
  expect(row(more)).toContain(words);
});

test('pickers that are missing are named, one alone only when it is soon, none when the time is over', () => {
  expect(row({ pickers: 3 }, 1)).toContain('! 2 more pickers to have it picked in time.');
  expect(row({ pickers: 2 }, 2)).not.toContain('picker');
  expect(row({ pickers: 1, cutOff: at(95) }, 0)).toContain('! 1 more picker to have it picked in time.');
  expect(row({ pickers: 1, cutOff: at(500) }, 0)).not.toContain('picker');
  expect(row({ pickers: 3, cutOff: at(-1) }, 0)).not.toContain('picker');
});

test('the bar is read aloud whole, and one that has left shows none', () => {
  const { markup } = shown(<DepartureRow departure={departure({})} zone="UTC" picking={0} />);
  expect(markup).toContain('aria-label="3 Clear, 2 Listed, 0 Picked, 1 Packed, 4 Labelled"');
  expect(markup).toContain('href="/departures/DE-7"');
  expect(
    shown(<DepartureRow departure={departure({ state: 'closed' })} zone="UTC" picking={0} />).markup,
  ).not.toContain('aria-label');
});
