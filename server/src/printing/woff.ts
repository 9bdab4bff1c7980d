import { inflateSync } from 'node:zlib';

const HEADER = 44;
const ENTRY = 20;

/**
 * The plain font (sfnt) within a WOFF 1.0 file (W3C Recommendation "WOFF File Format 1.0", from memory): each table is unpacked once.
 * pdfkit unpacks a table of a WOFF file again for every glyph, which takes seconds where a font is large.
 */
export function sfntOf(woff: Buffer): Buffer {
  if (woff.toString('latin1', 0, 4) !== 'wOFF') throw new Error('This is no WOFF file.');
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = HEADER + i * ENTRY;
    const [offset, packed, length] = [4, 8, 12].map(o => woff.readUInt32BE(at + o)) as [
      number,
      number,
      number,
    ];
    const bytes = woff.subarray(offset, offset + packed);
    return {
      tag: woff.toString('latin1', at, at + 4),
      checksum: woff.readUInt32BE(at + 16),
      data: packed < length ? inflateSync(bytes) : bytes,
    };
  });
  const head = Buffer.alloc(12 + 16 * count);
  const power = 2 ** Math.floor(Math.log2(count));
  woff.copy(head, 0, 4, 8);
  head.writeUInt16BE(count, 4);
  head.writeUInt16BE(power * 16, 6);
  head.writeUInt16BE(Math.log2(power), 8);
  head.writeUInt16BE((count - power) * 16, 10);
  let at = head.length;
  const parts: Uint8Array[] = [head];
  for (const [i, { tag, checksum, data }] of tables.entries()) {
    const entry = 12 + 16 * i;
    head.write(tag, entry, 'latin1');
    head.writeUInt32BE(checksum, entry + 4);
    head.writeUInt32BE(at, entry + 8);
    head.writeUInt32BE(data.length, entry + 12);
    // Tables begin at whole words.
    const padding = (4 - (data.length % 4)) % 4;
    parts.push(data, Buffer.alloc(padding));
    at += data.length + padding;
  }
  return Buffer.concat(parts);
}
