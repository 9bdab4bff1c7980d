import { type BenchParcel, BuyLabel, LabelView, OffersView, wishOf } from '@auk/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { v7 } from 'uuid';
import { wordsOf } from '../api.js';
import { playTone } from '../scans/sounds.js';
import { buyLabel, offersQuery } from './api.js';

const OFFERED = 5;

/** What the bench needs for the label of a closed parcel. */
export interface LabelDesk {
  /** The best services, as many as are seen without scrolling; of `more` nothing is said here, and none of them is bought unseen. */
  offers: OffersView | undefined;
  more: number;
  label: LabelView | null;
  /** Why the label, bought before the parcel was packed, is not right for it; it is voided first. */
  misfit: string | null;
  busy: boolean;
  /** Why the first service was not bought with the press that closed the parcel, where that was wanted. */
  held: string | null;
  problem: { says: string; cure: string } | null;
  buy: (index: number) => void;
  buyFirst: () => void;
  /** Asks the carriers for prices again, where they could not be had. */
  askAgain: () => void;
  /** What was bought here was given back. */
  givenBack: () => void;
}

/** Why the first service is not bought unseen; null when it may be. */
export function whyNotUnseen({ offers, silent }: OffersView): string | null {
  if (silent[0]) return `${silent[0].carrierName} gave no price.`;
  if (offers[0] && !offers[0].keeps) return 'No service keeps the promise.';
  return offers[0] ? null : 'No carrier takes it.';
}

/**
 * Prices of a closed parcel, and buying one: each choice has one key, so that pressing twice cannot buy twice. `atOnce`: the press that
 * closed the parcel stands for the first service too.
 */
export function useLabelDesk(
  parcel: BenchParcel,
  closed: boolean,
  bought: () => void,
  atOnce: boolean,
): LabelDesk {
  const parcelNo = parcel.no;
  // A label that was bought ahead says nothing while its parcel is packed.
  const label = parcel.closed ? parcel.label : null;
  const wants = closed && label?.state !== 'bought';
  const offers = useQuery({ ...offersQuery(parcelNo), enabled: wants });
  const all = wants ? offers.data : undefined;
  const shown = useMemo(() => all && { ...all, offers: all.offers.slice(0, OFFERED) }, [all]);
  const keys = useRef(new Map<string, string>());
  const buying = useMutation({
    mutationFn: ({ parcel, ...wish }: BuyLabel & { parcel: string }) => buyLabel(parcel, wish),
    onSuccess: got => {
      playTone(got.state === 'bought' ? 'complete' : 'wrong');
      // A refused purchase is over: the same choice may be tried again under a new key.
      if (got.state === 'refused') keys.current.clear();
      bought();
    },
    onError: () => playTone('wrong'),
    retry: (failures, error) => error.name === 'Unreached' && failures < 5,
  });
  const buy = (index: number) => {
    const offer = shown?.offers[index];
    if (!offer || buying.isPending) return;
    const choice = `${parcelNo} ${offer.carrier} ${offer.account.number} ${offer.quoteId}`;
    const key = keys.current.get(choice) ?? v7();
    keys.current.set(choice, key);
    buying.mutate({
      parcel: parcelNo,
      key,
      ...wishOf(offer),
      options: {},
    });
  };
  // What was bought for the parcel before says nothing of this one.
  const own = buying.variables?.parcel === parcelNo;
  const error = (own ? buying.error : null) ?? offers.error;
  const why = all ? whyNotUnseen(all) : null;
  const takes = atOnce && !!all && why === null && !label && !own && !offers.isFetching;
  const take = useRef(buy);
  take.current = buy;
  useEffect(() => {
    if (takes) take.current(0);
  }, [takes]);
  return {
    offers: shown,
    more: (all?.offers.length ?? 0) - (shown?.offers.length ?? 0),
    label: own && buying.data?.state === 'bought' ? buying.data : label,
    misfit: parcel.closed ? parcel.misfit : null,
    busy: buying.isPending || (wants && offers.isFetching),
    held: atOnce ? why : null,
    problem: error ? wordsOf(error) : null,
    buy,
    buyFirst: () => buy(0),
    givenBack: () => {
      keys.current.clear();
      buying.reset();
      bought();
    },
    askAgain: () => void (wants && !offers.isFetching && offers.refetch()),
  };
}
