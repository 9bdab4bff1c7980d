import { StockSettings } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { changed } from '../../asked.js';
import { Choice, type Options } from '../../parts/Choice.js';
import textCss from '../../parts/text.module.css';
import { serveAgain, setReserveMode, stockSettingsQuery } from '../api.js';

const MODES: Options<StockSettings['reserveMode']> = [
  ['partly', 'An order takes what there is.'],
  ['whole', 'An order is promised everything or nothing.'],
];

/** How orders are promised stock, as the lead sets it. */
export function ReserveMode({ lead }: { lead: boolean }) {
  const client = useQueryClient();
  const mode = useQuery(stockSettingsQuery);
  const save = useMutation({
    mutationFn: setReserveMode,
    onSettled: () => changed(client, 'stock', 'orders'),
  });
  return (
    <Choice
      label="How orders are promised stock"
      value={mode.data?.reserveMode ?? 'partly'}
      disabled={!lead}
      options={MODES}
      onChoose={m => save.mutate(m)}
    />
  );
}

/** Gives scarce goods out anew: by departure, then promised day, then age. */
export function ServeAgain() {
  const client = useQueryClient();
  const again = useMutation({
    mutationFn: serveAgain,
    onSettled: () => changed(client, 'stock', 'orders'),
  });
  return (
    <>
      {again.data && (
        <span role="status" className={textCss.quiet}>
          {count(again.data.cleared, 'order')} Clear by it, {count(again.data.shorted, 'order')} Short by it.
        </span>
      )}
      <Button
        title="By departure, then promised day, then age"
        disabled={again.isPending}
        onClick={() => again.mutate()}
      >
        Give scarce goods out anew by urgency
      </Button>
    </>
  );
}
