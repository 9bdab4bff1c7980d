import { Module } from '@nestjs/common';
import { DiscoveryModule } from '@nestjs/core';
import { DocsController } from './docs.controller.js';
import { OpenApi } from './openapi.service.js';

export { type JsonSchema, OpenApi, type Operation } from './openapi.service.js';

@Module({ imports: [DiscoveryModule], controllers: [DocsController], providers: [OpenApi] })
export class DocsModule {}
