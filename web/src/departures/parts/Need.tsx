import { NeedsPerson } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { retryJob } from '../../setup/api.js';
import { boardQuery } from '../api.js';
import css from '../board.module.css';

/** Where the cure of each cause is one press away, and what the press is called. */
function wayTo(n: NeedsPerson): [to: string, act: string] {
  switch (n.code) {
    case 'short':
      return [`/products/${encodeURIComponent(n.subject)}`, 'Look'];
    case 'unlinked-listing':
      return [`/products/listings?words=${encodeURIComponent(n.subject)}`, 'Link'];
    case 'label':
      return ['/parcels', 'Watch'];
    case 'doubt':
      return [`/parcels?look=${n.subject}`, 'Decide'];
    case 'claim':
      return ['/parcels/claims', 'Claim'];
    case 'message':
      return [`/orders?stage=all&words=${encodeURIComponent(n.subject)}`, 'Answer'];
    case 'mail':
      return ['/setup/mails', 'Look'];
    case 'inbound':
      return [`/inbound/${n.subject}`, 'Look'];
    case 'held':
      return ['/parcels', 'Look'];
    case 'parked':
      return ['/orders?stage=Parked', 'Read'];
    default:
      return [`/orders?stage=Stopped&reason=${n.code}`, STOP_ACTS[n.code] ?? 'Look'];
  }
}

const STOP_ACTS: Record<string, string> = {
  'bad-postcode': 'Correct',
  'bad-country': 'Correct',
  'long-address': 'Correct',
};

export function Need({ need: n }: { need: NeedsPerson }) {
  const [to, act] = wayTo(n);
  const client = useQueryClient();
  const retry = useMutation({
    mutationFn: () => retryJob(n.job!),
    onSuccess: () => client.invalidateQueries(boardQuery),
  });
  return (
    <div className={css.need}>
      <b>{n.orders}</b>
      <div className={pageCss.grow}>
        <p className={textCss.two}>{n.says}</p>
        <p className={`${textCss.quiet} ${textCss.cut}`}>{n.detail}</p>
      </div>
      {n.job ? (
        <Button
          variant="outlined"
          color="secondary"
          size="small"
          disabled={retry.isPending}
          onClick={() => retry.mutate()}
        >
          Try again
        </Button>
      ) : (
        <Button component={Link} to={to} variant="outlined" color="secondary" size="small">
          {act}
        </Button>
      )}
    </div>
  );
}
