import { z } from 'zod';
import { Device } from './scans.js';

/** Kinds of paper, each of which a bench may print on a printer of its own. */
export const PRINTED_KINDS = ['label', 'slip', 'invoice', 'customs', 'unit'] as const;
export const PaperKind = z.enum(PRINTED_KINDS);
export type PaperKind = z.infer<typeof PaperKind>;

/** A printer, with how many papers wait for it and why the first of them does. */
export const PrinterRow = z.object({
  id: z.string(),
  name: z.string(),
  url: z.string(),
  waiting: z.number(),
  trouble: z.string().nullable(),
});
export type PrinterRow = z.infer<typeof PrinterRow>;

export const PrinterIn = z.object({
  id: z.uuid().optional(),
  name: z.string().trim().min(1).max(40),
  url: z.url({ protocol: /^https?$/ }).max(200),
});
export type PrinterIn = z.infer<typeof PrinterIn>;

/** A bench: its printers by kind of paper, and what follows a finished order. */
export const BenchRow = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  label: z.string().nullable(),
  slip: z.string().nullable(),
  invoice: z.string().nullable(),
  scale: z.string().nullable(),
  afterOrder: z.enum(['wait', 'next']),
  checkOnly: z.boolean(),
  wantsPhoto: z.boolean(),
  /** The press that closes a parcel buys the first service for it. */
  takesFirst: z.boolean(),
  devices: z.number(),
});
export type BenchRow = z.infer<typeof BenchRow>;

const SCALE = 'A scale is at a host and a port, such as 10.0.0.7:4001.';
export const BenchIn = z.object({
  id: z.uuid().optional(),
  name: z.string().trim().min(1).max(40),
  label: z.uuid().nullable(),
  slip: z.uuid().nullable(),
  invoice: z.uuid().nullable(),
  /** The host and port at which its scale sends its lines. */
  scale: z
    .string()
    .regex(/^[\w.-]{1,60}:\d{1,5}$/, SCALE)
    .refine(at => Number(at.split(':')[1]) <= 65_535, SCALE)
    .nullable(),
  afterOrder: z.enum(['wait', 'next']),
  checkOnly: z.boolean(),
  wantsPhoto: z.boolean(),
  takesFirst: z.boolean(),
});
export type BenchIn = z.infer<typeof BenchIn>;

/** Benches and printers of the house. */
export const BenchesView = z.object({ benches: z.array(BenchRow), printers: z.array(PrinterRow) });
export type BenchesView = z.infer<typeof BenchesView>;

export const TakeBench = z.object({ device: Device });
/** The bench that a device stands at; null while nobody has said. */
export const BenchOfDevice = z.object({ bench: BenchRow.nullable() });
export type BenchOfDevice = z.infer<typeof BenchOfDevice>;

/** A paper that was sent to a printer, or waits to be. */
export const PrintJobRow = z.object({
  id: z.string(),
  printer: z.string(),
  bench: z.string().nullable(),
  kind: PaperKind,
  what: z.string(),
  state: z.enum(['waiting', 'printed']),
  why: z.string().nullable(),
  tries: z.number(),
  at: z.string(),
  printedAt: z.string().nullable(),
  copies: z.number(),
});
export type PrintJobRow = z.infer<typeof PrintJobRow>;

/** What lies on a scale, in milligrams. */
export const Weighed = z.object({ mg: z.number() });
export type Weighed = z.infer<typeof Weighed>;

export const TrayQuery = z.object({ printer: z.uuid().optional() });
