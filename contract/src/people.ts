import { z } from 'zod';
import { Id } from './common.js';
import { RIGHT_NAMES, type Right } from './rights.js';

export const Role = z.enum(['lead', 'picker', 'packer', 'office', 'admin']);

export type Role = z.infer<typeof Role>;

export const SignIn = z.object({ badge: z.string().trim().min(1).max(40), pin: z.string().min(4).max(12) });

export type SignIn = z.infer<typeof SignIn>;

/** Who is signed in, and what they may do. */
export const Person = z.object({
  id: z.string(),
  name: z.string(),
  badge: z.string(),
  role: Role,
  rights: z.array(z.enum(RIGHT_NAMES)),
});
export type Person = z.infer<typeof Person>;

/** Whether somebody may do something. */
export const can = (person: Pick<Person, 'rights'>, right: Right): boolean => person.rights.includes(right);

const Name = z.string().trim().min(2).max(80);

const Pin = z.string().regex(/^\d{4,12}$/, 'must be four to twelve digits');

/** A new person. The badge is given by Auk. */
export const PersonIn = z.object({ key: Id, name: Name, role: Role, pin: Pin });

export type PersonIn = z.infer<typeof PersonIn>;

export const PersonEdit = z.object({ name: Name, role: Role, active: z.boolean() });

export type PersonEdit = z.infer<typeof PersonEdit>;

export const NewPin = z.object({ pin: Pin });

/** A person in the list of people. */
export const PersonRow = z.object({
  id: z.string(),
  name: z.string(),
  badge: z.string(),
  role: Role,
  active: z.boolean(),
  /** Until when too many wrong PINs keep the badge waiting; null when they do not. */
  waitsUntil: z.string().nullable(),
});
export type PersonRow = z.infer<typeof PersonRow>;

export const RightIn = z.object({ right: z.enum(RIGHT_NAMES), role: Role, on: z.boolean() });

export type RightIn = z.infer<typeof RightIn>;

/** The table of rights as it stands: for each right the roles that have it, beside the admin. */
export const RightsTable = z.record(z.enum(RIGHT_NAMES), z.array(Role));
export type RightsTable = z.infer<typeof RightsTable>;
