/** Topics of the live stream; each message says what changed, never the data. */
export type LiveTopic =
  | 'orders'
  | 'lists'
  | 'parcels'
  | 'departures'
  | 'stock'
  | 'catalog'
  | 'channels'
  | 'builds'
  | 'purchases'
  | 'people'
  /** Too much was missed: everything is asked anew. */
  | 'all';

export interface LiveMessage {
  id: number;
  topic: LiveTopic;
  ref: string;
}
