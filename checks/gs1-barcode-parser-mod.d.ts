declare module 'gs1-barcode-parser-mod' {
  interface Element {
    ai: string;
    data: string | number | Date;
    unit: string;
  }
  const parser: { parseBarcode(text: string): { codeName: string; parsedCodeItems: Element[] } };
  export default parser;
}
