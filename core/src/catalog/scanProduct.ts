/** One code of a product and how many units a scan of it counts. */
export interface CountedCode {
  code: string;
  units: number;
}

/** A product as the floor and the bench need it. */
export interface ScanProduct {
  id: string;
  sku: string;
  name: string;
  codes: CountedCode[];
  picture: string | null;
  hint: string | null;
}
