import { useQueryClient } from '@tanstack/react-query';
import { orderQuery } from '../../parts/api.js';
import { AnswerBar } from '../../scans/AnswerBar.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { draftPath } from '../api.js';

const FIRST = {
  says: 'Scan products:',
  next: ' each scan is one more. Or find them by SKU and name below.',
  tone: 'info' as const,
};

/** Scans on a draft add lines: each scan is kept and sent until it is answered, and counts once. */
export function DraftScans({ id }: { id: string }) {
  const client = useQueryClient();
  const { answer, scan } = useScanSession<object, never>(
    `draft.${id}`,
    draftPath(id),
    'a typed order',
    {},
    null,
    () => void client.invalidateQueries(orderQuery(id)),
  );
  useScanner(scan);
  return <AnswerBar where="line" answer={answer ?? FIRST} />;
}
