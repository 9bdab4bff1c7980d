import type { Role } from '@auk/contract';

/** What each role is called on screen. */
export const ROLE_WORDS: Record<Role, string> = {
  lead: 'Lead',
  picker: 'Picker',
  packer: 'Packer',
  office: 'Office',
  admin: 'Admin',
};
