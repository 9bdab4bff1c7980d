import { can, PLACE_KINDS, PlaceIn, PlaceRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { CodeLink } from '../../parts/Code.js';
import { Form } from '../../parts/Form.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { SearchField } from '../../parts/SearchField.js';
import { say } from '../../parts/say.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMore } from '../../parts/useMore.js';
import { useQuestion } from '../../parts/useQuestion.js';
import { useMe } from '../../people/useMe.js';
import { StockNav } from '../../stock/parts/StockNav.js';
import { KIND_WORDS } from '../../stock/words.js';
import { placesQuery, savePlace } from '../api.js';

const EMPTY = { code: '', kind: 'bin', zone: '', capacity: '' };
type Input = typeof EMPTY;
const KINDS: Options = PLACE_KINDS.map(k => [k, KIND_WORDS[k]!]);

/** Places of the house: what each is for and holds; new ones; their labels. */
export default function PlacesPage() {
  const { question, part, set } = useQuestion();
  const [input, setInput] = useState(EMPTY);
  const lead = can(useMe(), 'places.change');
  const places = useInfiniteQuery(placesQuery(question));
  const rows = places.data?.pages.flatMap(p => p.rows) ?? [];
  const columns = useMemo(() => placeColumns(lead ? setInput : null), [lead]);
  const labels = (form: string) => `/api/v1/stock/places/labels.pdf?form=${form}&${question}`;
  return (
    <>
      <StockNav />
      <Head
        title="Places"
        about="A place bears the code on its shelf. One like A-07-2-B also tells where it stands: aisle A, bay 7, level 2, bin B; others are walked last."
      >
        {lead && (
          <Button component={Link} to="/bring-in?kind=places" variant="outlined" color="secondary">
            Bring in
          </Button>
        )}
      </Head>
      {lead && <PlaceForm input={input} setInput={setInput} />}
      <ProblemNote error={places.error} />
      <DataTable
        filters={
          <>
            <SearchField label="Place or zone" value={part('words')} onAsk={words => set('words', words)} />
            <Choice
              label="Kind of place"
              value={part('kind')}
              options={[['', 'every kind'], ...KINDS]}
              onChoose={kind => set('kind', kind)}
            />
          </>
        }
        name="place"
        label="Places"
        rows={rows}
        idOf={p => p.code}
        columns={columns}
        to={p => `/places/${encodeURIComponent(p.code)}`}
        more={useMore(places)}
        tools={
          <span>
            Labels of these:{' '}
            <a href={labels('sheet')} target="_blank" rel="noreferrer">
              sheet of 30
            </a>{' '}
            ·{' '}
            <a href={labels('thermal')} target="_blank" rel="noreferrer">
              label printer
            </a>
          </span>
        }
        empty={places.isSuccess && 'No place is called so. Make it above, or bring in a file.'}
      />
    </>
  );
}

const placeColumns = (change: ((input: Input) => void) | null): Column<PlaceRow>[] => [
  {
    id: 'place',
    head: 'Place',
    width: 14,
    cell: p => <CodeLink to={`/places/${encodeURIComponent(p.code)}`}>{p.code}</CodeLink>,
  },
  { id: 'kind', head: 'Kind', width: 14, cell: p => KIND_WORDS[p.kind] },
  { id: 'zone', head: 'Zone', cell: p => p.zone },
  { id: 'holds', head: 'Holds', right: true, cell: p => p.capacity },
  { id: 'units', head: 'Units', right: true, cell: p => p.units || '' },
  { id: 'products', head: 'Products', right: true, cell: p => p.products || '' },
  {
    id: 'acts',
    head: 'Acts',
    right: true,
    width: 14,
    fixed: true,
    cell: p => (
      <>
        <Button size="small" component={Link} to={`/stock/counts/${encodeURIComponent(p.code)}`}>
          Count
        </Button>
        {change && (
          <Button
            size="small"
            onClick={() =>
              change({ code: p.code, kind: p.kind, zone: p.zone, capacity: String(p.capacity ?? '') })
            }
          >
            Change
          </Button>
        )}
      </>
    ),
  },
];

/** Makes a place, or changes one by its code. */
function PlaceForm({ input, setInput }: { input: Input; setInput: (input: Input) => void }) {
  const client = useQueryClient();
  const read = PlaceIn.safeParse({
    ...input,
    capacity: input.capacity === '' ? null : Number(input.capacity),
  });
  const save = useMutation({
    mutationFn: savePlace,
    onSuccess: async (_, place) => {
      say(`${place.code} is saved.`);
      setInput(EMPTY);
      await changed(client, 'stock', 'orders');
    },
  });
  return (
    <>
      <Form
        className={`${pageCss.fields} ${pageCss.bulk}`}
        label="A place"
        ready={read.success && !save.isPending}
        onSend={() => read.success && save.mutate(read.data)}
      >
        <Line
          label="Place"
          capitals
          width={9}
          value={input.code}
          onType={code => setInput({ ...input, code })}
        />
        <Choice
          label="Kind"
          value={input.kind}
          options={KINDS}
          onChoose={kind => setInput({ ...input, kind })}
        />
        <Line label="Zone" width={9} value={input.zone} onType={zone => setInput({ ...input, zone })} />
        <Line
          label="Holds (units)"
          digits
          width={7}
          value={input.capacity}
          onType={capacity => setInput({ ...input, capacity })}
        />
        <Button type="submit" variant="outlined" color="secondary" disabled={!read.success || save.isPending}>
          Save the place
        </Button>
        <span className={textCss.quiet}>A code that is here already is changed.</span>
      </Form>
      <ProblemNote error={save.error} />
    </>
  );
}
