import { type CountLine } from '@auk/core';
import { v7 } from 'uuid';
import { onDevice } from '../kept.js';

/** A number typed for a line, and how many scans had counted then: later scans come on top. */
interface Typed {
  value: string;
  scanned: number;
}

export interface Kept {
  id: string;
  typed: Record<string, Typed>;
}

export const nameOf = (place: string) => `auk.counting.${place}`;

/** What lies somewhere is another thing after so long: an older count is begun anew. */
const FRESH_MS = 7 * 24 * 60 * 60 * 1000;

/** When an id was made, in milliseconds since 1970: a UUID of version 7 begins with it (RFC 9562, 5.7). */
const madeAt = (id: string): number => Number.parseInt(id.replaceAll('-', '').slice(0, 12), 16);

/** The count of a place that this device has not saved yet, or a new one. */
export function keptCount(place: string): Kept {
  const kept = read(onDevice.get(nameOf(place)));
  return kept && Date.now() - madeAt(kept.id) < FRESH_MS ? kept : keep(place, { id: v7(), typed: {} });
}

function read(text: string | null): Kept | null {
  try {
    return text === null ? null : (JSON.parse(text) as Kept);
  } catch {
    return null;
  }
}

/** Keeps a count on this device until it is saved. */
export function keep(place: string, kept: Kept): Kept {
  onDevice.set(nameOf(place), JSON.stringify(kept));
  return kept;
}

export const keyOf = (l: { sku: string; lot: string | null }) => `${l.sku} ${l.lot ?? ''}`;

/** What is counted of a line: what was typed and what was scanned since, or what was scanned; empty when neither. */
export function countedOf(line: CountLine, typed: Typed | undefined): string {
  if (typed === undefined) return line.counted === null ? '' : String(line.counted);
  if (typed.value === '') return '';
  return String(Number(typed.value) + (line.counted ?? 0) - typed.scanned);
}
