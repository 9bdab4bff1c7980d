import { z } from 'zod';

/** A look of a slip or invoice: for a channel ('' every), a country ('' every, 'abroad' all but the house's own). */
export const PaperTemplate = z.object({
  id: z.string(),
  kind: z.enum(['slip', 'invoice']),
  name: z.string(),
  position: z.number(),
  channel: z.string(),
  country: z.string(),
  heading: z.string(),
  message: z.string(),
  prices: z.boolean(),
  metric: z.boolean(),
});
export type PaperTemplate = z.infer<typeof PaperTemplate>;

export const PaperTemplateIn = z.object({
  id: z.uuid().optional(),
  kind: z.enum(['slip', 'invoice']),
  name: z.string().trim().min(1).max(60),
  position: z.number().int().min(0).max(1000),
  channel: z.string().max(20),
  country: z.string().regex(/^([A-Z]{2}|abroad|)$/),
  heading: z.string().trim().max(80),
  message: z.string().trim().max(600),
  prices: z.boolean(),
  metric: z.boolean(),
});

export type PaperTemplateIn = z.infer<typeof PaperTemplateIn>;
