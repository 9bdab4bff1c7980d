import { Column, type ColumnOptions, ForeignKey, Generated, PrimaryColumn } from 'typeorm';

/** Options that a column of any kind may have. */
export type Options = Pick<
  ColumnOptions,
  'nullable' | 'default' | 'asExpression' | 'generatedType' | 'transformer'
> & { primary?: boolean; generated?: 'increment'; to?: string };

/** A column of the database, with its key, its foreign key and its counting where it has them. */
function column(options: ColumnOptions, more: Options): PropertyDecorator {
  const { primary, generated, to, ...rest } = more;
  // What the database computes is never written.
  const computed = rest.asExpression ? { insert: false, update: false } : {};
  return (target, key) => {
    (primary ? PrimaryColumn : Column)({ ...options, ...rest, ...computed } as never)(target, key);
    if (generated) Generated(generated)(target, key);
    if (to) ForeignKey(to)(target, key);
  };
}

const BINARY = { charset: 'utf8mb4', collation: 'utf8mb4_bin' } as const;
/** The driver gives large numbers as texts; ours are whole and far under 2 ** 53. */
const NUMBER = { from: (v: string | null) => (v === null ? null : Number(v)), to: (v: number | null) => v };

/** A key, UUIDv7 where it is ours. */
export const Uuid = (o: Options = {}) => column({ type: 'uuid' }, o);
/** The key of a row of another table, by the name of its entity. */
export const Ref = (to: string, o: Options = {}) => column({ type: 'uuid' }, { ...o, to });
/** A code: told apart letter by letter, case and accents included. */
export const Code = (length: number, o: Options = {}) =>
  column({ type: 'varchar', length: String(length), ...BINARY }, o);
/** Words, compared as people do. */
export const Text = (length: number, o: Options = {}) =>
  column({ type: 'varchar', length: String(length) }, o);
/** A text of one length: a currency, a country, a digest. */
export const Fixed = (length: number, as: 'code' | Options = {}, o: Options = {}) =>
  column({ type: 'char', length: String(length), ...(as === 'code' ? BINARY : {}) }, as === 'code' ? o : as);
/** A moment, in UTC to the millisecond. */
export const At = (o: Options = {}) => column({ type: 'datetime', precision: 3 }, o);
/** A day of the warehouse, ISO. */
export const Day = (o: Options = {}) => column({ type: 'date' }, o);
export const Flag = (o: Options = {}) => column({ type: 'boolean' }, o);
export const Int = (o: Options = {}) => column({ type: 'int' }, o);
/** A large whole number: money in minor units, weights in milligrams, counters of logs. */
export const Big = (o: Options = {}) => column({ type: 'bigint' }, { transformer: NUMBER, ...o });
export const Decimal = (precision: number, scale: number, o: Options = {}) =>
  column({ type: 'decimal', precision, scale }, { transformer: NUMBER, ...o });
export const Json = (o: Options = {}) => column({ type: 'json' }, o);
export const OneOf = (values: readonly string[], o: Options = {}) =>
  column({ type: 'enum', enum: [...values] }, o);
/** A file's bytes, up to 16 MB. */
export const Bytes = (o: Options = {}) => column({ type: 'mediumblob' }, o);
/** Bytes of one length. */
export const Hash = (length: number, o: Options = {}) =>
  column({ type: 'binary', length: String(length) }, o);
