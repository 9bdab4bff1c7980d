import { useQueryClient } from '@tanstack/react-query';
import { forgetHeld } from '../held.js';
import { inTab } from '../kept.js';
import { signOut } from './api.js';

/** Signs out. Of the person nothing is left on the device but the scans that are still to be sent. */
export function useSignOut(): () => Promise<void> {
  const client = useQueryClient();
  return async () => {
    await signOut();
    client.clear();
    inTab.clear();
    await forgetHeld();
    // Another page load: nothing that a page held in memory is kept either.
    window.location.assign('/');
  };
}
