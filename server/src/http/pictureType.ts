/** The first bytes by which the kind of a picture is known. */
const KINDS: [type: PictureType, starts: (b: Buffer) => boolean][] = [
  ['image/png', b => b.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))],
  ['image/jpeg', b => b.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))],
  [
    'image/webp',
    b => b.subarray(0, 4).toString('latin1') === 'RIFF' && b.subarray(8, 12).toString('latin1') === 'WEBP',
  ],
];
export type PictureType = 'image/png' | 'image/jpeg' | 'image/webp';

/** What kind of picture a file is by its bytes, whatever it says of itself; null when it is none that is taken. */
export const pictureType = (bytes: Buffer): PictureType | null =>
  KINDS.find(([, starts]) => starts(bytes))?.[0] ?? null;
