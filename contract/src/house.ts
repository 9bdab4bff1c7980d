import { z } from 'zod';

/** Whether the house is set up, and whose it is. */
export const HouseState = z.object({
  open: z.boolean(),
  origin: z.enum(['demo', 'own']).nullable(),
  name: z.string(),
  /** The zone by which the warehouse counts its days. */
  zone: z.string(),
  /** The currency that the house counts in; empty before it is open. */
  currency: z.string(),
});
export type HouseState = z.infer<typeof HouseState>;

const isZone = (zone: string): boolean => {
  try {
    return Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
};

/** The first page of a house of one's own: the code that the start command printed, the first admin, and the warehouse. */
export const OpenHouse = z.object({
  code: z.string().trim().min(1).max(40),
  admin: z.object({
    name: z.string().trim().min(2).max(80),
    pin: z.string().regex(/^\d{4,12}$/, 'must be four to twelve digits'),
  }),
  house: z.object({
    name: z.string().trim().min(2).max(80),
    zone: z.string().max(40).refine(isZone, 'is no time zone, such as America/New_York'),
    currency: z
      .string()
      .trim()
      .toUpperCase()
      .regex(/^[A-Z]{3}$/, 'is no currency code, such as USD'),
    line1: z.string().trim().min(2).max(80),
    city: z.string().trim().min(1).max(60),
    region: z.string().trim().max(40).default(''),
    postcode: z.string().trim().min(2).max(16),
    country: z
      .string()
      .trim()
      .toUpperCase()
      .regex(/^[A-Z]{2}$/, 'is no country code, such as US'),
    phone: z.string().trim().max(40).default(''),
  }),
});

export type OpenHouse = z.infer<typeof OpenHouse>;

const Days = (least: number) => z.number().int().min(least).max(36_500);

/**
 * How many days what is done is kept. Scans and the keys of acts stay longer than the 400 days after which a repeat is refused, so
 * that none is ever counted twice.
 */
export const Keep = z.object({
  scansDays: Days(401),
  filesDays: Days(7),
  jobsDays: Days(1),
  photosDays: Days(1).default(400),
});
export type Keep = z.infer<typeof Keep>;
