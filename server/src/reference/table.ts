import { inflateRawSync } from 'node:zlib';
import { parse as parseCsv } from 'csv-parse/sync';
import { Forbidden } from '../http/problem.js';

/** Rows of cells as texts, heading first. */
export type Table = string[][];

const MOST_ROWS = 200_000;
const MOST_COLUMNS = 200;
/** Bytes that a spreadsheet may unpack to. A larger one is a trap, or wants cutting. */
const MOST_UNPACKED = 200_000_000;
const MOST_PACKED_FILES = 2_000;

/** Reads a file of rows: XLSX by its first bytes, else CSV. Refuses in a sentence what is no table. */
export async function readTable(bytes: Buffer): Promise<Table> {
  if (bytes.length === 0) throw new Forbidden('The file is empty.', 'Export it again and drop it here.');
  const rows =
    bytes.subarray(0, 4).toString('latin1') === 'PK\u0003\u0004' ? await readXlsx(bytes) : readCsv(bytes);
  if (rows.length < 2)
    throw new Forbidden('The file has a heading at most, and no rows.', 'Export it again and drop it here.');
  if (rows.length > MOST_ROWS + 1)
    throw new Forbidden(`The file has more than ${MOST_ROWS} rows.`, 'Cut it into smaller files.');
  if (rows[0]!.length > MOST_COLUMNS)
    throw new Forbidden(
      `The file has ${rows[0]!.length} columns.`,
      `Keep the columns that are needed; ${MOST_COLUMNS} are read at most.`,
    );
  return rows;
}

/** Reads CSV bytes into rows of cells, heading first: UTF-8 with or without BOM, else Windows-1252; comma, semicolon or tab. */
export function readCsv(bytes: Buffer): Table {
  if (bytes.subarray(0, 4096).includes(0))
    throw new Forbidden(
      'The file is neither a text file nor an XLSX workbook.',
      'Save it as CSV or XLSX and drop that.',
    );
  const text = decode(bytes);
  const firstLine = text.slice(0, text.search(/[\r\n]|$/));
  const delimiter = [',', ';', '\t'].sort(
    (a, b) => firstLine.split(b).length - firstLine.split(a).length,
  )[0]!;
  try {
    return parseCsv(text, {
      delimiter,
      bom: true,
      relax_column_count: true,
      skip_empty_lines: true,
      max_record_size: 200_000,
      to: MOST_ROWS + 2,
    });
  } catch (error) {
    throw new Forbidden(
      `The file is not readable as CSV: ${(error as Error).message.slice(0, 160)}.`,
      'Save it as CSV again; texts with commas or quotes must stand in quotes.',
    );
  }
}

function decode(bytes: Buffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

async function readXlsx(bytes: Buffer): Promise<Table> {
  refuseBombs(bytes);
  const { readSheet } = await import('read-excel-file/node');
  let rows: unknown[][];
  try {
    rows = (await readSheet(bytes)) as unknown[][];
  } catch {
    throw new Forbidden(
      'The file is not readable as an XLSX workbook.',
      'Open it in a spreadsheet, save it again as XLSX or CSV, and drop that.',
    );
  }
  return rows.map(r => r.map(cellText)).filter(r => r.some(c => c.trim() !== ''));
}

/** A cell as text: days without a time as days, yes and no for truth. */
function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (cell instanceof Date) {
    const iso = Number.isNaN(cell.getTime()) ? '' : cell.toISOString();
    return iso.endsWith('T00:00:00.000Z') ? iso.slice(0, 10) : iso;
  }
  if (typeof cell === 'boolean') return cell ? 'yes' : 'no';
  return String(cell);
}

/**
 * Refuses a workbook that unpacks to more than is ever needed, before anything else unpacks it. The sizes that a ZIP file tells of
 * itself are not believed: each packed file is unpacked here with what is left of the allowance as its limit.
 */
export function refuseBombs(bytes: Buffer): void {
  const bad = (says: string) =>
    new Forbidden(says, 'Open it in a spreadsheet, keep the sheet that is needed, and save it again.');
  const end = bytes.lastIndexOf(Buffer.from('PK\u0005\u0006', 'latin1'));
  if (end === -1 || end + 22 > bytes.length) throw bad('The workbook is cut off or damaged.');
  const count = bytes.readUInt16LE(end + 10);
  if (count > MOST_PACKED_FILES) throw bad(`The workbook holds ${count} files.`);
  let left = MOST_UNPACKED;
  for (let i = 0, at = bytes.readUInt32LE(end + 16); i < count; i++) {
    if (at + 46 > bytes.length || bytes.readUInt32LE(at) !== 0x02014b50)
      throw bad('The workbook is cut off or damaged.');
    const [method, packed, local] = [
      bytes.readUInt16LE(at + 10),
      bytes.readUInt32LE(at + 20),
      bytes.readUInt32LE(at + 42),
    ];
    if (local + 30 > bytes.length) throw bad('The workbook is cut off or damaged.');
    const from = local + 30 + bytes.readUInt16LE(local + 26) + bytes.readUInt16LE(local + 28);
    left -= method === 0 ? packed : unpackedSize(bytes.subarray(from, from + packed), left);
    if (left <= 0) throw bad(`The workbook unpacks to more than ${MOST_UNPACKED / 1_000_000} MB.`);
    at += 46 + bytes.readUInt16LE(at + 28) + bytes.readUInt16LE(at + 30) + bytes.readUInt16LE(at + 32);
  }
}

/** Bytes that a packed file unpacks to, or the limit when it is more. A damaged one is left for the reader to refuse. */
function unpackedSize(packed: Buffer, limit: number): number {
  try {
    return inflateRawSync(packed, { maxOutputLength: limit }).length;
  } catch (error) {
    return (error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE' ? limit : 0;
  }
}
