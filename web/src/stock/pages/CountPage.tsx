import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { v7 } from 'uuid';
import { countQuery } from '../api.js';
import { keep, keptCount } from '../keptCount.js';
import { Count } from '../parts/Count.js';
import { CountProblem } from '../parts/CountProblem.js';

/** Counts a place without telling what should lie there. Each scan of a product counts its units; numbers can be typed too. Kept until it is saved. */
export default function CountPage() {
  const { place } = useParams();
  const [kept, setKept] = useState(() => keptCount(place!));
  const begun = useQuery(countQuery(kept.id, place!));
  const anew = () => setKept(keep(place!, { id: v7(), typed: {} }));
  if (begun.data) return <Count key={kept.id} kept={kept} session={begun.data} anew={anew} />;
  return <CountProblem error={begun.error} begin={anew} />;
}
