import { log } from '../http/log.js';
import { type Lease, LeaseLost, type Leases } from '../leases/leases.module.js';

/** A worker holds a purchase for this long: longer than it waits for the carrier, twice. */
export const HOLD_MS = 20_000;

export const leaseOf = (id: string): string => `label ${id}`;

/** Works at a purchase under its lease and lets go of it. When the lease was lost on the way, whoever has it finds out what was done. */
export async function underLease(
  leases: Leases,
  lease: Lease,
  work: (lease: Lease) => Promise<void>,
): Promise<void> {
  try {
    await work(lease);
  } catch (error) {
    if (!(error instanceof LeaseLost)) throw error;
    log.warn({ purchase: lease.name }, 'a carrier answered after its purchase was given to another worker');
  } finally {
    await leases.free(lease);
  }
}
