import { expect, test } from 'vitest';
import { Refused, Unreached } from '../api.js';
import { isOver } from './keptPhotos.js';

const refusal = (status: number) =>
  new Refused({ type: 'about:blank', title: 'x', status, detail: 'no', cure: 'do', retry: 'never' });

test.each([
  ['it has it', null, true],
  ['it is no picture', refusal(400), true],
  ['its order is forgotten', refusal(404), true],
  ['it is too large', refusal(413), true],
  ['nobody is signed in', refusal(401), false],
  ['who is signed in now may not pack', refusal(403), false],
  ['the server fails', refusal(500), false],
  ['the server cannot be reached', new Unreached('no'), false],
])('a photo stays on the device until the server has it or can never take it: %s', async (_, error, over) => {
  expect(
    await isOver(async () => {
      if (error) throw error;
    }),
  ).toBe(over);
});
