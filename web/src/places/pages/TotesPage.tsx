import { CARRIER_KINDS, can, MakeTotes, TOTE_COLOURS, type ToteRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Choice } from '../../parts/Choice.js';
import { CodeLink } from '../../parts/Code.js';
import { Form } from '../../parts/Form.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { StockNav } from '../../stock/parts/StockNav.js';
import { makeTotes, totesQuery } from '../api.js';

/** The totes and trolleys of the house: whose they are, and in which goods were left. */
export default function TotesPage() {
  const totes = useQuery(totesQuery);
  const may = can(useMe(), 'places.change');
  /** Codes that were made since the page was opened: theirs are the labels that are missing. */
  const [made, setMade] = useState<readonly string[]>([]);
  const rows = totes.data ?? [];
  const left = rows.filter(t => t.left).length;
  const busy = rows.filter(t => t.order !== null || t.list !== null).length;
  const totesOnly = rows.filter(t => t.kind === 'tote').length;
  return (
    <>
      <StockNav />
      <Head
        title="Totes and trolleys"
        about={`${count(totesOnly, 'tote')}, ${count(rows.length - totesOnly, 'trolley')}; ${busy} in use${left > 0 ? `, ! goods left in ${left}` : ''}. Each bears its code and a mark that is read from afar.`}
      />
      {may && <NewTotes onMade={setMade} />}
      <ProblemNote error={totes.error} />
      <DataTable
        name="totes"
        label="Totes and trolleys"
        rows={[...rows.filter(t => t.left), ...rows.filter(t => !t.left)]}
        idOf={t => t.code}
        columns={COLUMNS}
        tools={
          <>
            {made.length > 0 && (
              <Labels of={`the ${count(made.length, 'new one')}`} from={made[0]!} to={made.at(-1)!} />
            )}
            <Labels of="all" from="" to="" />
          </>
        }
        empty={totes.isSuccess && 'There is no tote yet. Make some above.'}
      />
    </>
  );
}

const labelsAt = (form: 'sheet' | 'thermal', from: string, to: string) =>
  `/api/v1/stock/totes/labels.pdf?form=${form}&from=${from}&to=${to}`;

/** Where labels are printed, of codes from one to another. */
function Labels({ of, from, to }: { of: string; from: string; to: string }) {
  return (
    <span>
      Labels of {of}:{' '}
      <a href={labelsAt('sheet', from, to)} target="_blank" rel="noreferrer">
        sheet of 30
      </a>{' '}
      ·{' '}
      <a href={labelsAt('thermal', from, to)} target="_blank" rel="noreferrer">
        label printer
      </a>
    </span>
  );
}

const COLUMNS: Column<ToteRow>[] = [
  { id: 'tote', head: 'Code', width: 10, cell: t => <span className={textCss.code}>{t.code}</span> },
  { id: 'kind', head: 'Kind', width: 9, cell: t => t.kind },
  { id: 'mark', head: 'Mark', width: 8, cell: t => <b>{t.mark}</b> },
  { id: 'colour', head: 'Colour', width: 10, cell: t => t.colour },
  { id: 'holds', head: 'Totes on it', right: true, width: 9, cell: t => t.capacity },
  {
    id: 'order',
    head: 'Carries',
    width: 16,
    cell: t =>
      t.order ? (
        <CodeLink to={`/orders?stage=all&words=${t.order}`}>{t.order}</CodeLink>
      ) : (
        t.list && <CodeLink to={`/pick/${t.list}`}>{t.list}</CodeLink>
      ),
  },
  { id: 'stage', head: 'Stage', width: 12, cell: t => t.stage },
  { id: 'units', head: 'Pieces', right: true, width: 8, cell: t => t.units || '' },
  {
    id: 'since',
    head: 'In it since',
    width: 22,
    cell: t =>
      t.since && (
        <span className={t.left ? textCss.risk : ''}>
          {t.left ? '! ' : ''}
          {moment(t.since)}
        </span>
      ),
  },
  {
    id: 'label',
    head: 'Label',
    width: 8,
    cell: t => (
      <a
        href={labelsAt('thermal', t.code, t.code)}
        target="_blank"
        rel="noreferrer"
        aria-label={`Label of ${t.code}`}
      >
        print
      </a>
    ),
  },
];

const COLOURS = TOTE_COLOURS.map(c => [c, c] as const);

const KINDS = CARRIER_KINDS.map(k => [k, k === 'tote' ? 'totes' : 'trolleys'] as const);

/** Numbers further totes or trolleys: how many, their letter, their colour. */
function NewTotes({ onMade }: { onMade: (codes: readonly string[]) => void }) {
  const [input, setInput] = useState({
    kind: 'tote' as MakeTotes['kind'],
    count: '20',
    capacity: '12',
    letter: 'A',
    colour: TOTE_COLOURS[0] as MakeTotes['colour'],
  });
  const client = useQueryClient();
  const read = MakeTotes.safeParse({
    ...input,
    count: Number(input.count),
    capacity: input.kind === 'trolley' ? Number(input.capacity) : null,
  });
  const make = useMutation({
    mutationFn: makeTotes,
    onSuccess: async codes => {
      onMade(codes);
      say(`Made: ${codes[0]} to ${codes.at(-1)}. Print their labels.`);
      await changed(client, 'stock');
    },
  });
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk}`}
      label="Further totes or trolleys"
      ready={read.success && !make.isPending}
      onSend={() => read.success && make.mutate(read.data)}
    >
      <Line
        label="How many"
        digits
        width={7}
        value={input.count}
        onType={n => setInput({ ...input, count: n })}
      />
      <Choice
        label="Kind"
        value={input.kind}
        options={KINDS}
        onChoose={kind => setInput({ ...input, kind })}
      />
      {input.kind === 'trolley' && (
        <Line
          label="Totes on each"
          digits
          width={8}
          value={input.capacity}
          onType={capacity => setInput({ ...input, capacity })}
        />
      )}
      <Line
        label="Letter"
        capitals
        width={5}
        most={1}
        value={input.letter}
        onType={letter => setInput({ ...input, letter })}
      />
      <Choice
        label="Colour"
        value={input.colour}
        options={COLOURS}
        onChoose={colour => setInput({ ...input, colour })}
      />
      <Button type="submit" variant="outlined" color="secondary" disabled={!read.success || make.isPending}>
        Make them
      </Button>
      <ProblemNote error={make.error} />
    </Form>
  );
}
