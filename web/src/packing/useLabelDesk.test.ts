import type { OffersView, OfferView } from '@auk/contract';
import { expect, test } from 'vitest';
import { whyNotUnseen } from './useLabelDesk.js';

const view = (keeps: boolean[], silent: OffersView['silent'] = []): OffersView => ({
  offers: keeps.map(k => ({ keeps: k }) as OfferView),
  silent,
  chosenBy: null,
  promised: null,
  paidMinor: 0,
  currency: 'USD',
  houseCurrency: 'USD',
  paidHouseMinor: 0,
});

test('the first service is bought unseen only when it is in time and every carrier gave its price', () => {
  expect(whyNotUnseen(view([true, false]))).toBeNull();
  expect(whyNotUnseen(view([false]))).toBe('No service keeps the promise.');
  expect(whyNotUnseen(view([]))).toBe('No carrier takes it.');
  expect(whyNotUnseen(view([true], [{ carrierName: 'Heron Post', why: 'late' }]))).toBe(
    'Heron Post gave no price.',
  );
});
