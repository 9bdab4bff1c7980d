import type { InboundLineView, InboundView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import { Choice } from '../../parts/Choice.js';
import { Field } from '../../parts/Field.js';
import { FilePick } from '../../parts/FilePick.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { bringLines, setLine, takeGoodsOf } from '../api.js';
import css from '../inbound.module.css';
import { useAct } from '../useAct.js';

interface Props {
  view: InboundView;
  /** Whether it may still be changed. */
  may: boolean;
}

const KINDS = [
  ['units', 'single units'],
  ['cases', 'full cases'],
] as const;

/** What goes: how many of each, beside what is free, what lies there, and what is proposed. */
export function What({ view, may }: Props) {
  const change = useAct((input: object) => setLine(view.no, input));
  const [of, setOf] = useState('');
  const from = useAct(
    (code: string) => takeGoodsOf(view.no, code),
    () => setOf(''),
  );
  const file = useAct((f: File) => bringLines(view.no, f));
  const set = (l: InboundLineView, more: object) =>
    change.mutate({ sku: l.sku, units: l.units, inCases: l.perCase !== null, by: l.by, ...more });
  return (
    <>
      <DataTable
        name="inbound-lines"
        label="What goes"
        arrangeable={false}
        rows={view.lines}
        idOf={l => l.sku}
        columns={columnsOf(may ? set : null)}
        empty="Nothing yet. Add a product below, or bring in a file of codes and units."
      />
      {may && <AddLine no={view.no} />}
      {may && (
        <p className={textCss.quiet}>
          or{' '}
          <FilePick label="File of lines" accept=".csv,text/csv" onFile={f => file.mutate(f)}>
            <span className={css.link}>bring in a file</span>
          </FilePick>{' '}
          of two columns: code, units. The first row is its heading.
        </p>
      )}
      {may && (
        <Form className={css.acts} ready={of.trim() !== ''} onSend={() => from.mutate(of.trim())}>
          <Line
            bare
            capitals
            label="Purchase order or build"
            placeholder="PO-12 or BU-3"
            width={11}
            value={of}
            onType={setOf}
          />
          <Button type="submit" size="small" disabled={of.trim() === '' || from.isPending}>
            Take its goods along
          </Button>
        </Form>
      )}
      <ProblemNote error={change.error ?? file.error ?? from.error} />
      {file.data && (
        <p role="status">
          {file.data.problems.length === 0
            ? `✓ ${count(file.data.taken, 'product')} taken.`
            : `▲ Nothing was taken. ${file.data.problems
                .slice(0, 8)
                .map(p => `Row ${p.row}: ${p.says}`)
                .join(' ')}`}
        </p>
      )}
    </>
  );
}

/** A product more, one after the other by keyboard alone. */
function AddLine({ no }: { no: string }) {
  const [sku, setSku] = useState('');
  const [units, setUnits] = useState('');
  const [kind, setKind] = useState<(typeof KINDS)[number][0]>('units');
  const product = useRef<HTMLInputElement>(null);
  const add = useAct(
    () => setLine(no, { sku, units: Number(units), inCases: kind === 'cases' }),
    () => {
      setSku('');
      setUnits('');
      product.current?.focus();
    },
  );
  const ready = sku !== '' && Number(units) > 0;
  return (
    <>
      <Form className={css.adds} ready={ready} onSend={() => add.mutate()}>
        <PickProduct
          bare
          label="Product"
          inputRef={product}
          sku={sku}
          onPick={setSku}
          may={p => p.kind !== 'bundle'}
        />
        <Line bare digits label="Units" placeholder="units" value={units} onType={setUnits} />
        <Choice bare label="As" value={kind} options={KINDS} onChoose={setKind} />
        <Button type="submit" variant="outlined" color="secondary" disabled={!ready || add.isPending}>
          Add
        </Button>
      </Form>
      <ProblemNote error={add.error} />
    </>
  );
}

const columnsOf = (set: ((l: InboundLineView, more: object) => void) | null): Column<InboundLineView>[] => [
  {
    id: 'product',
    head: 'Product',
    width: 30,
    cell: l => (
      <>
        <Link className={textCss.name} to={`/products/${encodeURIComponent(l.sku)}`}>
          {l.name}
        </Link>{' '}
        <span className={`${textCss.code} ${textCss.quiet}`}>{l.sku}</span>
        {l.refused && <div className={textCss.stop}>✕ Not taken there: {l.refused}</div>}
        {l.caseGuessed && (
          <div className={textCss.quiet}>
            ≈ size and weight of its case are guessed; give them on its page
          </div>
        )}
      </>
    ),
  },
  {
    id: 'units',
    head: 'Units',
    right: true,
    width: 9,
    cell: l => (
      <Field
        right
        label={`Units of ${l.sku}`}
        value={String(l.units)}
        readOnly={set === null}
        onSave={text => {
          const n = Number(text);
          if (!Number.isInteger(n) || n < 0) return 'Type a whole number; 0 takes it out.';
          set?.(l, { units: n });
          return null;
        }}
      />
    ),
  },
  {
    id: 'cases',
    head: 'As',
    width: 13,
    cell: l => (l.perCase === null ? 'units' : `${l.units / l.perCase} cases of ${l.perCase}`),
  },
  {
    id: 'free',
    head: 'Free here',
    right: true,
    width: 9,
    cell: l => (l.free < l.units ? <span className={textCss.risk}>▲ {l.free}</span> : l.free),
  },
  { id: 'there', head: 'There', right: true, width: 9, cell: l => l.there },
  { id: 'coming', head: 'Coming', right: true, width: 9, cell: l => l.onTheWay },
  {
    id: 'proposed',
    head: 'Proposed',
    width: 21,
    cell: l => (
      <>
        {set && l.proposal.units > 0 && l.proposal.units !== l.units ? (
          <Button size="small" onClick={() => set(l, { units: l.proposal.units })}>
            Send {l.proposal.units}
          </Button>
        ) : (
          l.proposal.units > 0 && <b>{l.proposal.units}</b>
        )}{' '}
        <span className={textCss.quiet}>{l.proposal.says}</span>
      </>
    ),
  },
];
