import { z } from 'zod';

export const Role = z.enum(['lead', 'picker', 'packer', 'office', 'admin']);
export type Role = z.infer<typeof Role>;

export const SignIn = z.object({ badge: z.string().trim().min(1).max(40), pin: z.string().min(4).max(12) });
export type SignIn = z.infer<typeof SignIn>;

export interface Person {
  id: string;
  name: string;
  badge: string;
  role: Role;
}
