import { ChannelKind, ChannelTrouble, ChannelView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, send } from '../api.js';

export const channelsQuery = queryOptions({
  queryKey: ['channels'],
  queryFn: () => get(ChannelView.array(), 'channels'),
});

/** The habits a channel may have. */
export const kindsQuery = queryOptions({
  queryKey: ['channels', 'kinds'],
  queryFn: () => get(ChannelKind.array(), 'channels/kinds'),
});

/** Orders of a channel that cannot be read. */
export const troubleQuery = (code: string) =>
  queryOptions({
    queryKey: ['channels', 'trouble', code],
    queryFn: () => get(ChannelTrouble.array(), `channels/${code}/trouble`),
  });

export const pullChannel = (code: string) => send(`channels/${code}/pull`);
export const connectChannel = (code: string, input: object) => send(`channels/${code}/connect`, input);
