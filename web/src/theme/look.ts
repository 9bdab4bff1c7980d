import { useSyncExternalStore } from 'react';
import { onDevice } from '../kept.js';
import { TEXT_SIZES } from './tokens.js';

/** How a person wants Auk to look on this device. */
export interface Look {
  contrast: boolean;
  text: (typeof TEXT_SIZES)[number];
  units: 'imperial' | 'metric';
  /** No motion, whatever the machine says. */
  still: boolean;
}

const PLAIN: Look = { contrast: false, text: 100, units: 'imperial', still: false };
const keyOf = (personId: string) => `auk.look.${personId}`;

/** The looks of the people of this device, each under the person's id; the last one also for the page where nobody is signed in. */
class Looks {
  private personId = '';
  private look: Look = read('');
  private readonly told = new Set<() => void>();

  constructor() {
    // Changed in another tab, it changes here too.
    globalThis.addEventListener?.(
      'storage',
      e => e.key === keyOf(this.personId) && this.put(read(this.personId)),
    );
  }

  now = (): Look => this.look;

  listen = (tell: () => void): (() => void) => {
    this.told.add(tell);
    return () => this.told.delete(tell);
  };

  of(personId: string): void {
    if (personId === this.personId) return;
    this.personId = personId;
    this.put(read(personId));
  }

  change(part: Partial<Look>): void {
    const look = { ...this.look, ...part };
    for (const id of new Set([this.personId, ''])) onDevice.set(keyOf(id), JSON.stringify(look));
    this.put(look);
  }

  private put(look: Look): void {
    this.look = look;
    for (const tell of this.told) tell();
  }
}

function read(personId: string): Look {
  try {
    const kept = JSON.parse(onDevice.get(keyOf(personId)) ?? '{}') as Partial<Look>;
    const look = { ...PLAIN, ...kept };
    return TEXT_SIZES.includes(look.text) ? look : PLAIN;
  } catch {
    return PLAIN;
  }
}

export const looks = new Looks();
export const useLook = (): Look => useSyncExternalStore(looks.listen, looks.now);
