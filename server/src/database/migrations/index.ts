import { FirstLight1764000000000 } from './0001-first-light.js';

/** Every migration, oldest first. */
export const MIGRATIONS = [FirstLight1764000000000];
