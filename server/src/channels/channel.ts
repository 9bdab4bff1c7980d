import type { ToldTracking } from '@auk/contract';

/** A channel as Auk tells it things. Every adapter is one of these. */
export interface ChannelLink {
  /** Tells the channel that a parcel left. Telling twice with one key must count once. Throws with a sentence when the channel did not take it. */
  tellTracking(told: ToldTracking): Promise<void>;
}

export const CHANNEL_LINK = Symbol('channel link');

/** Channels that take JSON over HTTP, as the stand-in does. */
export class PlainChannel implements ChannelLink {
  constructor(private readonly address: string) {}

  async tellTracking(told: ToldTracking): Promise<void> {
    const response = await fetch(`${this.address}/tracking`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      signal: AbortSignal.timeout(4_000),
      body: JSON.stringify(told),
    });
    if (!response.ok) throw new Error(`${told.channel} answered ${response.status}.`);
  }
}
