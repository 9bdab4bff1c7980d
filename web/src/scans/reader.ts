import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url';

// The reader comes from this house, and starts without a network too.
prepareZXingModule({ overrides: { locateFile: () => wasm } });

/** The codes that are seen in a picture. */
export async function codesIn(picture: ImageData): Promise<string[]> {
  const found = await readBarcodes(picture, { textMode: 'Plain', tryHarder: true, maxNumberOfSymbols: 4 });
  return found.filter(f => f.isValid && f.text !== '').map(f => f.text);
}
