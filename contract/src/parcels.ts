/** A parcel as the list of parcels shows it. */
export interface ParcelListRow {
  no: string;
  order: string;
  channelNumber: string;
  buyer: string;
  state: string;
  carrier: string | null;
  service: string | null;
  tracking: string | null;
  minor: number | null;
  currency: string;
  weightMg: number | null;
  box: string | null;
  departure: string | null;
  why: string | null;
}
