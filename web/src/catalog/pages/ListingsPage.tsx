import { can, ListingRow } from '@auk/contract';
import { count, SURE_FROM } from '@auk/core';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import { channelsQuery } from '../../channels/api.js';
import { Choice } from '../../parts/Choice.js';
import { ExportLinks } from '../../parts/ExportLinks.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { SearchField } from '../../parts/SearchField.js';
import { DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useChosen } from '../../parts/useMany.js';
import { useMore } from '../../parts/useMore.js';
import { useQuestion } from '../../parts/useQuestion.js';
import { useMe } from '../../people/useMe.js';
import { linkListings, listingsQuery, makeProductsOf } from '../api.js';
import { listingColumns } from '../parts/listingColumns.js';
import { Meant } from '../parts/WhichProduct.js';

const STATES = ['unlinked', 'linked', 'all'].map(s => [s, s] as const);

/** How the channels sell what we have: unlinked listings with proposals and their reasons, linked in one act. */
export default function ListingsPage() {
  const me = useMe();
  const { question, part, set } = useQuestion();
  const state = part('state') || 'unlinked';
  const client = useQueryClient();
  const [chosen, choose, chooseNone] = useChosen();
  const [meant, setMeant] = useState<Record<string, Meant>>({});
  const listings = useInfiniteQuery(listingsQuery(question));
  const more = useMore(listings);
  const rows = listings.data?.pages.flatMap(p => p.rows) ?? [];
  const meaning = (l: ListingRow): Meant | null => meant[l.id] ?? proposed(l);
  const done = () => {
    chooseNone();
    setMeant({});
    void changed(client, 'catalog', 'stock', 'orders');
  };
  const { link, make, answer } = useLinking(done);
  const ready = rows.filter(l => chosen.has(l.id) && !l.product && meaning(l));
  const desk = can(me, 'products.change');
  const unlinked = state === 'unlinked';
  const columns = listingColumns({
    unlinked,
    can: desk,
    meaning,
    byHand: l => l.id in meant,
    mean: (l, m) => setMeant({ ...meant, [l.id]: m }),
    unlink: l => link.mutate([{ listingId: l.id, sku: null, units: 1 }]),
  });
  return (
    <>
      <Head
        title="Listings"
        about="How each channel sells what we have. Linking a listing lets its waiting orders go on at once."
      >
        {desk && (
          <Button component={Link} to="/bring-in?kind=listings" variant="outlined" color="secondary">
            Bring in
          </Button>
        )}
        {desk && unlinked && (
          <Button
            variant="contained"
            disabled={ready.length === 0 || link.isPending}
            onClick={() =>
              link.mutate(
                ready.map(l => ({ listingId: l.id, sku: meaning(l)!.sku, units: meaning(l)!.units })),
              )
            }
          >
            Link {ready.length}
          </Button>
        )}
      </Head>
      <ProblemNote error={listings.error ?? link.error ?? make.error} />
      {answer && <Answered answer={answer} />}
      <DataTable
        filters={<Filters part={part} set={set} state={state} />}
        name={unlinked ? 'unlinked' : 'listing'}
        label="Listings"
        rows={rows}
        idOf={l => l.id}
        columns={columns}
        chosen={desk && unlinked ? { ids: chosen, set: choose, nameOf: l => l.channelSku } : null}
        more={more}
        tools={
          <>
            {desk && unlinked && <Chosen rows={rows} chosen={chosen} choose={choose} make={make} />}
            <ExportLinks what="listings" question={question} />
          </>
        }
        empty={
          listings.isSuccess &&
          (unlinked
            ? 'Every listing is linked. New ones appear here when a channel sells something unknown.'
            : 'No listing is like this.')
        }
      />
    </>
  );
}

/** Linking listings to products that are there, or to new ones made of them; the answer to what was done last. */
function useLinking(onSuccess: () => void) {
  const link = useMutation({
    mutationFn: (links: { listingId: string; sku: string | null; units: number }[]) => linkListings(links),
    onSuccess,
  });
  const make = useMutation({ mutationFn: makeProductsOf, onSuccess });
  return { link, make, answer: link.submittedAt > make.submittedAt ? link.data : make.data };
}

/** What became of each listing. */
function Answered({ answer }: { answer: NonNullable<ReturnType<typeof useLinking>['answer']> }) {
  return (
    <div className={pageCss.bulk} role="status">
      <p>
        {answer.answers.filter(a => a.done).length} done, {count(answer.freed, 'order')} freed.
      </p>
      <ul className={pageCss.answers}>
        {answer.answers.map(a => (
          <li key={a.listingId} className={a.done ? '' : textCss.stop}>
            <span className={textCss.code}>{a.channelSku}</span> {a.done ? '✓' : '✕'} {a.says}
          </li>
        ))}
      </ul>
    </div>
  );
}

interface ChosenProps {
  rows: readonly ListingRow[];
  chosen: ReadonlySet<string>;
  choose: (ids: Set<string>) => void;
  make: ReturnType<typeof useLinking>['make'];
}

/** Choosing those that are nearly sure, and making products of those that are chosen. */
function Chosen({ rows, chosen, choose, make }: ChosenProps) {
  const sure = rows.filter(l => !l.product && (l.proposals[0]?.score ?? 0) >= SURE_FROM);
  return (
    <>
      {sure.length > 0 && (
        <Button size="small" onClick={() => choose(new Set(sure.map(l => l.id)))}>
          Choose the {sure.length} that are nearly sure
        </Button>
      )}
      {chosen.size > 0 && (
        <Button size="small" disabled={make.isPending} onClick={() => make.mutate([...chosen])}>
          Make {count(chosen.size, 'product')} of them
        </Button>
      )}
    </>
  );
}

function Filters({
  part,
  set,
  state,
}: Pick<ReturnType<typeof useQuestion>, 'part' | 'set'> & { state: string }) {
  const channels = useQuery(channelsQuery);
  return (
    <>
      <SearchField label="SKU or title" value={part('words')} onAsk={words => set('words', words)} />
      <Choice
        label="State"
        value={state}
        options={STATES}
        onChoose={s => set('state', s === 'unlinked' ? '' : s)}
      />
      <Choice
        label="Channel"
        value={part('channel')}
        options={[['', 'every channel'], ...(channels.data ?? []).map(c => [c.code, c.name] as const)]}
        onChoose={code => set('channel', code)}
      />
    </>
  );
}

/** What a listing is linked to, or seems to be. */
function proposed(l: ListingRow): Meant | null {
  const of = l.product ? { ...l.product, units: l.units } : l.proposals[0];
  return of
    ? { sku: of.sku, name: of.name, units: of.units, picture: 'picture' in of ? of.picture : null }
    : null;
}
