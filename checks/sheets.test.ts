import { type Sheet, toCsv, toXlsx } from '@auk/server/imports/exports.service';
import { readTable } from '@auk/server/reference/table';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import { expect, test } from 'vitest';

// exceljs 4.4.0 as the independent reader and writer of XLSX; papaparse 5.7.1 for CSV.
const NASTY = [
  '=1+1',
  '+SUM(A1)',
  '-2',
  '@cmd',
  '=HYPERLINK("http://x.example","y")',
  '\tTab',
  'Zoë 🐝 שלום',
  'a "quote", comma\nand line',
];
const sheet: Sheet = {
  name: 'Orders',
  headings: ['Text', 'Number'],
  rows: NASTY.map((text, i) => [text, i * 1.25]),
};

test('XLSX written by Auk is opened by another library: texts stay texts, nothing is a formula', async () => {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load((await toXlsx(sheet)) as unknown as ArrayBuffer);
  const page = book.getWorksheet('Orders')!;
  expect(page.rowCount).toBe(NASTY.length + 1);
  NASTY.forEach((text, i) => {
    const cell = page.getCell(i + 2, 1);
    expect(cell.formula).toBeUndefined();
    expect(cell.type).toBe(ExcelJS.ValueType.String);
    expect(cell.text.trim()).toBe(text.trim());
    expect(page.getCell(i + 2, 2).value).toBe(i * 1.25);
  });
});

test('CSV written by Auk holds no cell that a spreadsheet would run, and is read whole by another library', () => {
  const { data } = Papa.parse<string[]>(
    toCsv(sheet)
      .toString('utf8')
      .replace(/^\ufeff/, ''),
  );
  expect(data.filter(r => r.length > 1)).toHaveLength(NASTY.length + 1);
  for (const [text] of data.slice(1)) expect(text ?? '').not.toMatch(/^[=+\-@\t\r]/);
});

test('XLSX written by another library is read: texts, numbers, days, truth, formulas by their value', async () => {
  const book = new ExcelJS.Workbook();
  const page = book.addWorksheet('x');
  page.addRow(['Order number', 'Qty', 'Deliver by', 'Paid', 'Sum']);
  page.addRow(['W-1', 2, new Date('2026-11-25T00:00:00Z'), true, { formula: 'B2*2', result: 4 }]);
  page.addRow(['00123', 12.5, null, false, 1]);
  const table = await readTable(Buffer.from(await book.xlsx.writeBuffer()));
  expect(table[1]).toEqual(['W-1', '2', '2026-11-25', 'yes', '4']);
  expect(table[2]!.slice(0, 2)).toEqual(['00123', '12.5']);
});

test('every export is a file that Auk reads again', async () => {
  for (const bytes of [toCsv(sheet), await toXlsx(sheet)]) {
    const table = await readTable(bytes);
    expect(table[0]).toEqual(sheet.headings);
    expect(table).toHaveLength(NASTY.length + 1);
    expect(table[7]![0]).toBe('Zoë 🐝 שלום');
  }
});
