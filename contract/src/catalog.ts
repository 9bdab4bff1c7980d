export interface ProductRow {
  id: string;
  sku: string;
  name: string;
  kind: 'piece' | 'kit' | 'bundle';
  stage: 'Unproven' | 'Live' | 'Retired';
  codes: { code: string; units: number }[];
  onHand: number;
  reserved: number;
  free: number;
  places: { code: string; onHand: number; listed: number }[];
  parts: { sku: string; name: string; quantity: number }[];
  picture: string | null;
  weightMg: number | null;
  listings: { channel: string; channelSku: string }[];
}

export interface PlaceView {
  code: string;
  kind: string;
  stock: {
    sku: string;
    name: string;
    onHand: number;
    listed: number;
    lot: string | null;
    expiry: string | null;
  }[];
}
