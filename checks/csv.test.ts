import { seeded } from '@auk/core';
import { readCsv } from '@auk/server/reference/table';
import Papa from 'papaparse';
import { expect, test } from 'vitest';

const read = (text: string) => readCsv(Buffer.from(text));

// Source: RFC 4180, section 2, rules 1 to 7.
test.each([
  [
    'lines end with CRLF',
    'a,b\r\n1,2\r\n',
    [
      ['a', 'b'],
      ['1', '2'],
    ],
  ],
  [
    'the last line may have no end',
    'a,b\r\n1,2',
    [
      ['a', 'b'],
      ['1', '2'],
    ],
  ],
  [
    'spaces are part of a field',
    'a,b\r\n 1 ,2',
    [
      ['a', 'b'],
      [' 1 ', '2'],
    ],
  ],
  [
    'fields may be quoted',
    '"a","b"\r\n"1","2"',
    [
      ['a', 'b'],
      ['1', '2'],
    ],
  ],
  [
    'quoted fields hold commas and line ends',
    'a,b\r\n"1,\r\nx","2"',
    [
      ['a', 'b'],
      ['1,\r\nx', '2'],
    ],
  ],
  [
    'a quote inside is doubled',
    'a,b\r\n"say ""hi""",2',
    [
      ['a', 'b'],
      ['say "hi"', '2'],
    ],
  ],
  [
    'empty fields stay',
    'a,b,c\r\n1,,3\r\n,,',
    [
      ['a', 'b', 'c'],
      ['1', '', '3'],
      ['', '', ''],
    ],
  ],
])('%s', (_, text, rows) => {
  expect(read(text)).toEqual(rows);
});

// Source: papaparse 5.7.1 on the same texts.
test('200 random files are read as an independent parser reads them', () => {
  const random = seeded(11);
  const cell = () =>
    ['x', 'two words', 'with, comma', 'with "quote"', 'line\nend', '', 'ü', '=1+1', '12.50'][
      Math.floor(random() * 9)
    ]!;
  for (let i = 0; i < 200; i++) {
    const rows = [
      ['h1', 'h2', 'h3'],
      ...Array.from({ length: 1 + Math.floor(random() * 12) }, () => [`k${i}`, cell(), cell()]),
    ];
    const text = Papa.unparse(rows, { newline: '\r\n' });
    expect(read(text)).toEqual(Papa.parse(text, { skipEmptyLines: true }).data);
  }
});
