import { type ClaimView, can } from '@auk/contract';
import { formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { changed } from '../../asked.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { claimsQuery, closeClaim } from '../api.js';
import { ParcelsNav } from '../parts/ParcelsNav.js';

const KINDS: Record<ClaimView['kind'], string> = {
  stray: 'sold and denied',
  price: 'charged too much',
};

/** What carriers owe back. */
export default function ClaimsPage() {
  const may = can(useMe(), 'labels.claims');
  const client = useQueryClient();
  const claims = useQuery(claimsQuery);
  const close = useMutation({
    mutationFn: ([id, state]: [string, string]) => closeClaim(id, state),
    onSettled: () => changed(client, 'claims'),
  });
  const columns: Column<ClaimView>[] = [
    { id: 'parcel', head: 'Parcel', cell: c => <span className={textCss.code}>{c.parcel}</span> },
    { id: 'carrier', head: 'Carrier', width: 14, cell: c => c.carrierName },
    {
      id: 'why',
      head: 'Why',
      width: 34,
      cell: c => (
        <>
          <b>{KINDS[c.kind]}</b>
          <div className={textCss.quiet}>{c.why}</div>
        </>
      ),
    },
    {
      id: 'tracking',
      head: 'Tracking',
      width: 16,
      cell: c => <span className={textCss.code}>{c.tracking}</span>,
    },
    { id: 'owed', head: 'Owed', right: true, cell: c => formatMoney(c.minor, c.currency) },
    { id: 'since', head: 'Found', width: 14, cell: c => moment(c.at) },
    {
      id: 'state',
      head: 'State',
      width: 20,
      cell: c =>
        c.state === 'open' && may ? (
          <span className={pageCss.inline}>
            <Button
              size="small"
              variant="outlined"
              color="secondary"
              onClick={() => close.mutate([c.id, 'settled'])}
            >
              The money is back
            </Button>
            <Button size="small" color="secondary" onClick={() => close.mutate([c.id, 'given up'])}>
              Give up
            </Button>
          </span>
        ) : (
          <span className={`${textCss.stage} ${c.state === 'settled' ? textCss.good : ''}`}>
            {c.state === 'settled' ? '✓ settled' : c.state === 'open' ? '! open' : '○ given up'}
          </span>
        ),
    },
  ];
  return (
    <>
      <ParcelsNav />
      <Head
        title="Claims"
        about="What carriers owe back: labels that were sold and denied, and more that was charged than was agreed. Auk finds them in the carriers’ books and asks for the money; what a carrier keeps waits here."
      />
      <ProblemNote error={claims.error ?? close.error} />
      <DataTable
        name="claims"
        label="Claims"
        rows={claims.data ?? []}
        idOf={c => c.id}
        columns={columns}
        arrangeable={false}
        empty={
          claims.isSuccess && 'No carrier owes anything. What Auk finds in their books stands here by itself.'
        }
      />
    </>
  );
}
