import { z } from 'zod';

/** Papers that have templates. */
export const PAPER_KINDS = ['slip', 'invoice', 'customs', 'commercial', 'dangerous'] as const;
export type TemplateKind = (typeof PAPER_KINDS)[number];

/** A look of a paper: for a channel ('' every), a country ('' every, 'abroad' all but the house's own), buyers whose mail address has these letters ('' every). */
export const PaperTemplate = z.object({
  id: z.string(),
  kind: z.enum(PAPER_KINDS),
  name: z.string(),
  position: z.number(),
  channel: z.string(),
  country: z.string(),
  buyer: z.string(),
  heading: z.string(),
  message: z.string(),
  prices: z.boolean(),
  metric: z.boolean(),
});
export type PaperTemplate = z.infer<typeof PaperTemplate>;

export const PaperTemplateIn = z.object({
  id: z.uuid().optional(),
  kind: z.enum(PAPER_KINDS),
  name: z.string().trim().min(1).max(60),
  position: z.number().int().min(0).max(1000),
  channel: z.string().max(20),
  country: z.string().regex(/^([A-Z]{2}|abroad|)$/),
  buyer: z.string().trim().toLowerCase().max(120).default(''),
  heading: z.string().trim().max(80),
  message: z.string().trim().max(600),
  prices: z.boolean(),
  metric: z.boolean(),
});

export type PaperTemplateIn = z.infer<typeof PaperTemplateIn>;
