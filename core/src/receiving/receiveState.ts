import type { ScanProduct } from '../catalog/scanProduct.js';
import type { Step } from '../scans/scan.js';

/** A line of a purchase order at the dock. `received` counts units of all devices; `putAway` is the proposed place and why. */
export interface ReceiveLine {
  id: string;
  product: ScanProduct;
  ordered: number;
  received: number;
  lotWanted: boolean;
  expiryWanted: boolean;
  putAway: { code: string; why: string } | null;
  /** Lots of the product that the house knows, with their expiry (ISO day). */
  lots: { code: string; expiry: string | null }[];
}

/** Units in the hand of one device: of which line and lot, not put away yet. */
export interface InHand {
  lineId: string;
  units: number;
  lot: string | null;
}

/** What one device is about: several people may receive one order at once. */
export interface AtDevice {
  /** A piece that was scanned and waits for its lot or expiry; it counts when they are told. */
  asked: { lineId: string; units: number; lot: string | null } | null;
  /** The lot last used for a line, taken for its next pieces too. */
  lastLineId: string | null;
  lots: Record<string, { lot: string | null; expiry: string | null }>;
  inHand: InHand[];
  history: (
    | { type: 'receive'; lineId: string; units: number; lot: string | null; expiry: string | null }
    | { type: 'put'; lineId: string; units: number; lot: string | null; place: string }
  )[];
}

/** State of receiving one purchase order. */
export interface ReceiveState {
  kind: 'receive';
  orderNo: string;
  supplier: string;
  lines: ReceiveLine[];
  devices: Record<string, AtDevice>;
}

/** What the ledger must do after a receiving scan. Negative units take back. Places are told by their codes. */
export type ReceiveEffect =
  | { type: 'receive'; lineId: string; units: number; lot: string | null; expiry: string | null }
  | { type: 'put'; lineId: string; units: number; lot: string | null; place: string };
export type ReceiveStep = Step<ReceiveState, ReceiveEffect>;

/** Opens receiving of an order as it stands. */
export function openReceive(orderNo: string, supplier: string, lines: ReceiveLine[]): ReceiveState {
  return { kind: 'receive', orderNo, supplier, lines, devices: {} };
}

/** Units of a line that are still awaited. */
export const awaited = (l: ReceiveLine): number => l.ordered - l.received;

/** True when nothing is awaited any more. */
export const receiveDone = (state: ReceiveState): boolean => state.lines.every(l => awaited(l) === 0);

const NOBODY: AtDevice = { asked: null, lastLineId: null, lots: {}, inHand: [], history: [] };

/** The place of a device in the session, empty when it has done nothing yet. */
export const atDevice = (state: ReceiveState, device: string): AtDevice => state.devices[device] ?? NOBODY;
