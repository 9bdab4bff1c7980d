import { FirstLight1764000000000 } from './0001-first-light.js';
import { OrderDesk1764100000000 } from './0002-order-desk.js';
import { KitsAndStock1764200000000 } from './0003-kits-and-stock.js';
import { Ground1764300000000 } from './0004-ground.js';
import { OneDoor1764400000000 } from './0005-one-door.js';
import { Layout1764500000000 } from './0006-layout.js';
import { Carriers1764600000000 } from './0007-carriers.js';
import { Bench1764700000000 } from './0008-bench.js';
import { Labels1764800000000 } from './0009-labels.js';
import { Afterwards1764900000000 } from './0010-afterwards.js';
import { Rules1765400000000 } from './0011-rules.js';
import { Elsewhere1765500000000 } from './0012-elsewhere.js';
import { Ahead1766000000000 } from './0013-ahead.js';
import { Inbound1766200000000 } from './0014-inbound.js';
import { InboundPlans1766300000000 } from './0015-inbound-plans.js';
import { OnePress1766400000000 } from './0016-one-press.js';
import { OneAddress1766500000000 } from './0017-one-address.js';

/** All migrations in order. They only go forward. */
export const MIGRATIONS = [
  FirstLight1764000000000,
  OrderDesk1764100000000,
  KitsAndStock1764200000000,
  Ground1764300000000,
  OneDoor1764400000000,
  Layout1764500000000,
  Carriers1764600000000,
  Bench1764700000000,
  Labels1764800000000,
  Afterwards1764900000000,
  Rules1765400000000,
  Elsewhere1765500000000,
  Ahead1766000000000,
  Inbound1766200000000,
  InboundPlans1766300000000,
  OnePress1766400000000,
  OneAddress1766500000000,
];
