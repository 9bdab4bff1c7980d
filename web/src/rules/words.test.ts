import type { RuleWords } from '@auk/contract';
import { ACTIONS, type ActionName, FIELDS, LINE_FIELDS, type Moment } from '@auk/core';
import { expect, test } from 'vitest';
import { actionOptions, callsBy, fieldOptions, MOMENT_WORDS, momentOptions, wordsFor } from './words.js';

const MOMENTS = Object.keys(MOMENT_WORDS) as Moment[];
const words = {
  channels: ['Fernway Market'],
  products: [{ sku: 'JAR-12', name: 'Honey jar' }],
  categories: ['jars'],
  properties: ['fragile'],
  tags: ['gift'],
  boxes: [{ code: 'BX-1', name: 'Small box' }],
  services: [
    { code: 'heron parcel', name: 'Heron Parcel' },
    { code: 'heron express', name: 'Heron Express' },
    { code: 'redfen ground', name: 'Redfen Ground' },
  ],
} as unknown as RuleWords;

test('every field, moment and act of the book has words of its own to choose it by', () => {
  for (const [options, names] of [
    [fieldOptions.order, Object.keys(FIELDS)],
    [fieldOptions.line, Object.keys(LINE_FIELDS)],
    [momentOptions, MOMENTS],
  ] as const) {
    expect(options.map(o => o[0])).toEqual(names);
    expect(new Set(options.map(o => o[1])).size).toBe(names.length);
    for (const [, says] of options) expect(says).toMatch(/\S/);
  }
});

test('at a moment only what may be done then is offered, without the words that a value follows', () => {
  const built = new Set(Object.keys(ACTIONS) as ActionName[]);
  for (const moment of MOMENTS) {
    const offered = actionOptions(moment, built);
    for (const [action, says] of offered) {
      expect(
        (ACTIONS[action].moments as readonly string[]).includes(moment),
        `${action} ${MOMENT_WORDS[moment]}`,
      ).toBe(true);
      expect(says).not.toMatch(/(:| of)$/);
    }
  }
  expect(actionOptions('packed', new Set())).toEqual([]);
});

test('things are called by their names, and by their codes where nobody knows a name', () => {
  const call = callsBy(words);
  expect(call('service', 'heron parcel')).toBe('Heron Parcel');
  expect(call('box', 'BX-1')).toBe('Small box');
  expect(call('box', 'BX-9')).toBe('BX-9');
  expect(callsBy(undefined)('service', 'heron parcel')).toBe('heron parcel');
});

test('what can be chosen for a field is what the house has; anything else is typed', () => {
  expect(wordsFor('carrier', words)).toEqual(['heron', 'redfen']);
  expect(wordsFor('products', words)).toEqual(['JAR-12']);
  expect(wordsFor('box', words)).toEqual(['BX-1']);
  expect(wordsFor('lineProperties', words)).toEqual(['fragile']);
  expect(wordsFor('weight', words)).toEqual([]);
  expect(wordsFor('carrier', undefined)).toEqual([]);
});
