import { OrderView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { splitOrder } from '../api.js';

export function SplitBar({
  order: o,
  units,
  leave,
}: {
  order: OrderView;
  units: Record<string, number>;
  leave: () => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const lines = Object.entries(units)
    .filter(([, n]) => n > 0)
    .map(([key, quantity]) => ({ key, quantity }));
  const split = useMutation({
    mutationFn: () => splitOrder(o.row.id, { version: o.version, lines }),
    onSuccess: ({ id }) => {
      leave();
      void changed(client, 'orders', 'stock', 'lists', 'parcels');
      void navigate(`/orders/${id}`);
    },
  });
  return (
    <div className={pageCss.row} style={{ gap: 8, margin: '8px 0' }}>
      <Button
        variant="contained"
        disabled={lines.length === 0 || split.isPending}
        onClick={() => split.mutate()}
      >
        Split off{' '}
        {count(
          lines.reduce((n, l) => n + l.quantity, 0),
          'unit',
        )}
      </Button>
      <Button onClick={leave}>Leave it whole</Button>
      <span className={textCss.quiet}>
        Shipping, discount and payment go along by their share, to the cent.
      </span>
      <ProblemNote error={split.error} />
    </div>
  );
}
