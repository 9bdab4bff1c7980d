import { type DynamicModule, Global, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { DataSource } from 'typeorm';
import { Db } from './db.js';

/** The database, the one thing that every feature has without asking. */
@Global()
@Module({})
export class DatabaseModule {
  static of(source: DataSource): DynamicModule {
    return {
      module: DatabaseModule,
      // The source is open already; it is closed with the application.
      imports: [
        TypeOrmModule.forRootAsync({
          useFactory: () => ({ ...source.options, manualInitialization: true }),
          dataSourceFactory: async () => source,
        }),
      ],
      providers: [{ provide: Db, useFactory: () => new Db(source) }],
      exports: [Db],
    };
  }
}
