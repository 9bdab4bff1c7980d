import { Module } from '@nestjs/common';
import { CarrierRegistry } from './carriers.registry.js';

export type { Asked, Carrier } from './carrier.js';
export { CarrierRegistry } from './carriers.registry.js';

@Module({
  providers: [CarrierRegistry],
  exports: [CarrierRegistry],
})
export class CarriersModule {}
