import { FirstLight1764000000000 } from './0001-first-light.js';
import { OrderDesk1764100000000 } from './0002-order-desk.js';
import { KitsAndStock1764200000000 } from './0003-kits-and-stock.js';

/** Every migration, oldest first. */
export const MIGRATIONS = [FirstLight1764000000000, OrderDesk1764100000000, KitsAndStock1764200000000];
