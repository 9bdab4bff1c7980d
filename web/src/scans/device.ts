import type { ScanIn } from '@auk/contract';
import { v7 } from 'uuid';

const NAME = 'auk.device';
const COUNT = 'auk.device.count';

/** This device's id, made once and kept. */
export function deviceId(): string {
  const known = localStorage.getItem(NAME);
  if (known) return known;
  const made = v7();
  localStorage.setItem(NAME, made);
  return made;
}

/** A scan of this device: a new id, the next count, the device's time. */
export function makeScan(text: string, by?: ScanIn['by']): ScanIn {
  const count = Number(localStorage.getItem(COUNT) ?? '0') + 1;
  localStorage.setItem(COUNT, String(count));
  return {
    id: v7(),
    text: text.slice(0, 20_000),
    at: new Date().toISOString(),
    device: deviceId(),
    count,
    ...(by && { by }),
  };
}
