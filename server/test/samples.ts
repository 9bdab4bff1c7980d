import type { Address } from '@auk/core';

/** An address at home that lacks nothing. */
export const ADDRESS: Address = {
  name: 'Ruth Penrose',
  company: '',
  line1: '1 Alder Lane',
  line2: '',
  city: 'Boise',
  region: 'ID',
  postcode: '83702',
  country: 'US',
  phone: '',
};
