import { Injectable } from '@nestjs/common';
import type { Carrier } from './carrier.js';

/** The carriers that this installation has, by code. */
@Injectable()
export class CarrierRegistry {
  private readonly carriers = new Map<string, Carrier>();

  add(carrier: Carrier): void {
    this.carriers.set(carrier.code, carrier);
  }

  get(code: string): Carrier | undefined {
    return this.carriers.get(code);
  }

  all(): Carrier[] {
    return [...this.carriers.values()];
  }
}
