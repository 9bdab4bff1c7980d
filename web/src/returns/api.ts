import { type JudgeIn, MadeId, ReturnView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

/** Parcels that came back, those with something to judge first. */
export const returnsQuery = queryOptions({
  queryKey: ['returns'],
  queryFn: () => get(ReturnView.array(), 'returns'),
});
export const takeBack = (key: string, code: string) => post(MadeId, 'returns', { key, code });
export const countPiece = (id: string, quantity: number) => send(`returns/pieces/${id}/count`, { quantity });
export const judgePiece = (id: string, how: JudgeIn) => send(`returns/pieces/${id}/judge`, how);
