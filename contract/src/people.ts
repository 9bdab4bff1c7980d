import { z } from 'zod';
import { Id } from './common.js';
import { RIGHT_NAMES, type Right } from './rights.js';

export const Role = z.enum(['lead', 'picker', 'packer', 'office', 'admin']);
export type Role = z.infer<typeof Role>;

export const SignIn = z.object({ badge: z.string().trim().min(1).max(40), pin: z.string().min(4).max(12) });
export type SignIn = z.infer<typeof SignIn>;

/** Who is signed in, and what they may do. */
export interface Person {
  id: string;
  name: string;
  badge: string;
  role: Role;
  rights: Right[];
}

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
export interface PersonRow {
  id: string;
  name: string;
  badge: string;
  role: Role;
  active: boolean;
  /** Until when too many wrong PINs keep the badge waiting; null when they do not. */
  waitsUntil: string | null;
}

export const RightIn = z.object({ right: z.enum(RIGHT_NAMES), role: Role, on: z.boolean() });
export type RightIn = z.infer<typeof RightIn>;

/** The table of rights as it stands: for each right the roles that have it, beside the admin. */
export type RightsTable = Record<Right, Role[]>;
