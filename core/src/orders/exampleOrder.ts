import type { ReceivedOrder } from './document.js';

/** An order as a channel tells it, for tests: two jars to Boise, paid. */
export const exampleOrder = (more: Partial<ReceivedOrder> = {}): ReceivedOrder => ({
  channelNumber: 'WS-1',
  placedAt: null,
  mail: 'r@mail.example',
  shipTo: {
    name: 'Ruth',
    company: '',
    line1: '1 Road',
    line2: '',
    city: 'Boise',
    region: 'ID',
    postcode: '83702',
    country: 'US',
    phone: '',
  },
  payment: 'paid',
  currency: 'USD',
  shippingMinor: 500,
  promised: null,
  note: '',
  lines: [{ channelSku: 'A', title: 'Jar', quantity: 2, priceMinor: 100 }],
  ...more,
});
