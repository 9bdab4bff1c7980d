import type { ChannelKindEntry } from './adapter.js';
import { CURSOR_CHANNEL } from './cursor/cursorChannel.js';
import { EACH_CHANNEL } from './each/eachChannel.js';
import { SINCE_CHANNEL } from './since/sinceChannel.js';
import { WHOLE_CHANNEL } from './whole/wholeChannel.js';

/** The kinds of channels that Setup offers. A new one is a folder here and a line in this list (docs/channels.md). */
export const CHANNEL_KINDS: readonly ChannelKindEntry[] = [
  CURSOR_CHANNEL,
  SINCE_CHANNEL,
  WHOLE_CHANNEL,
  EACH_CHANNEL,
];
