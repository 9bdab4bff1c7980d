import type { ScanIn } from '@auk/contract';
import { v7 } from 'uuid';
import { onDevice } from '../kept.js';

const NAME = 'auk.device';
const COUNT = 'auk.device.count';

/** This device's id, made once and kept. */
export function deviceId(): string {
  const known = onDevice.get(NAME);
  if (known) return known;
  const made = v7();
  onDevice.set(NAME, made);
  return made;
}

/** A scan of this device: a new id, the next count, the device's time. */
export function makeScan(text: string, by?: ScanIn['by']): ScanIn {
  const count = (Number(onDevice.get(COUNT)) || 0) + 1;
  onDevice.set(COUNT, String(count));
  return {
    id: v7(),
    text: text.slice(0, 20_000),
    at: new Date().toISOString(),
    device: deviceId(),
    count,
    ...(by && { by }),
  };
}
