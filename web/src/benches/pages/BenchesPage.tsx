import { type BenchesView, type BenchIn, type BenchRow, can, type PrinterRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { Form } from '../../parts/Form.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { benchesQuery, saveBench, savePrinter } from '../api.js';

const AFTER: Options<BenchIn['afterOrder']> = [
  ['wait', 'the bench waits for a scan'],
  ['next', 'the next to leave opens by itself'],
];

/** The benches of the house, each with its printers; and the printers. */
export default function BenchesPage() {
  const all = useQuery(benchesQuery);
  const may = can(useMe(), 'benches.change');
  return (
    <>
      <SetupNav />
      <Head
        title="Benches"
        about="Packing places and their printers. A device stands at the bench whose code it scanned last."
      />
      <ProblemNote error={all.error} />
      {all.data?.benches.map(b => (
        <Bench key={b.id} bench={b} view={all.data} may={may} />
      ))}
      {all.data && may && <Bench key={`new ${all.data.benches.length}`} bench={null} view={all.data} may />}
      <h2>Printers</h2>
      {all.data?.printers.map(p => (
        <Printer key={p.id} printer={p} may={may} />
      ))}
      {all.data && may && <Printer key={`new ${all.data.printers.length}`} printer={null} may />}
      {all.data?.printers.length === 0 && <p>There is no printer yet. Name one, and give its address.</p>}
    </>
  );
}

interface BenchProps {
  /** Null for a further one. */
  bench: BenchRow | null;
  view: BenchesView;
  may: boolean;
}

const NEW_BENCH: BenchIn = {
  name: '',
  label: null,
  slip: null,
  invoice: null,
  scale: null,
  afterOrder: 'wait',
  checkOnly: false,
  wantsPhoto: false,
  takesFirst: false,
};

/** What comes out at which printer. */
const PAPERS = [
  ['label', 'Labels come out at'],
  ['slip', 'Slips at'],
  ['invoice', 'Invoices at'],
] as const;

/** What is typed of a bench, and keeping it. */
function useBench(bench: BenchRow | null) {
  const client = useQueryClient();
  const [input, setInput] = useState<BenchIn>(bench ?? NEW_BENCH);
  const save = useMutation({
    mutationFn: (facts: BenchIn) => saveBench(bench ? { ...facts, id: bench.id } : facts),
    onSuccess: async () => {
      say(bench ? `${input.name} is changed.` : `${input.name} is set up. Print its code and stick it on.`);
      await changed(client, 'prints');
    },
  });
  const { name, label, slip, invoice, scale, afterOrder, checkOnly, wantsPhoto, takesFirst } = input;
  const facts = {
    name,
    label,
    slip,
    invoice,
    scale: scale?.trim() || null,
    afterOrder,
    checkOnly,
    wantsPhoto,
    takesFirst,
  };
  return {
    input,
    change: (more: Partial<BenchIn>) => setInput({ ...input, ...more }),
    save,
    send: () => save.mutate(facts),
  };
}

function Bench({ bench, view, may }: BenchProps) {
  const { input, change, save, send } = useBench(bench);
  const printers: Options = [['', 'no printer'], ...view.printers.map(p => [p.id, p.name] as const)];
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk}`}
      label={bench ? `Bench ${bench.name}` : 'A further bench'}
      ready={may && input.name.trim() !== '' && !save.isPending}
      onSend={send}
    >
      <Line
        label={bench ? bench.code : 'A further bench'}
        width={11}
        value={input.name}
        disabled={!may}
        onType={name => change({ name })}
      />
      {PAPERS.map(([kind, words]) => (
        <Choice
          key={kind}
          label={words}
          value={input[kind] ?? ''}
          options={printers}
          disabled={!may}
          onChoose={id => change({ [kind]: id || null })}
        />
      ))}
      <Line
        label="Its scale is at"
        width={11}
        value={input.scale ?? ''}
        disabled={!may}
        placeholder="host:port"
        onType={scale => change({ scale })}
      />
      <Choice
        label="When an order is done"
        value={input.afterOrder}
        options={AFTER}
        disabled={!may}
        onChoose={afterOrder => change({ afterOrder })}
      />
      <div className={`${pageCss.row} ${pageCss.whole}`}>
        <Tick
          label="only checks"
          checked={input.checkOnly}
          onTick={checkOnly => may && change({ checkOnly })}
        />
        <Tick
          label="wants a photo"
          checked={input.wantsPhoto}
          onTick={wantsPhoto => may && change({ wantsPhoto })}
        />
        <Tick
          label="LABEL buys the first service in time"
          checked={input.takesFirst}
          onTick={takesFirst => may && change({ takesFirst })}
        />
        {may && (
          <Button
            type="submit"
            variant="outlined"
            color="secondary"
            disabled={input.name.trim() === '' || save.isPending}
          >
            {bench ? 'Keep it' : 'Set it up'}
          </Button>
        )}
        {bench && <span className={textCss.quiet}>{count(bench.devices, 'device')} here</span>}
      </div>
      <ProblemNote error={save.error} />
    </Form>
  );
}

function Printer({ printer, may }: { printer: PrinterRow | null; may: boolean }) {
  const client = useQueryClient();
  const [input, setInput] = useState({ name: printer?.name ?? '', url: printer?.url ?? '' });
  const save = useMutation({
    mutationFn: () => savePrinter(printer ? { ...input, id: printer.id } : input),
    onSuccess: async () => {
      say(`${input.name} is kept.`);
      await changed(client, 'prints');
    },
  });
  const ready = may && input.name.trim() !== '' && input.url.trim() !== '' && !save.isPending;
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk}`}
      label={printer ? `Printer ${printer.name}` : 'A further printer'}
      ready={ready}
      onSend={() => save.mutate()}
    >
      <Line
        label={printer ? 'Name' : 'A further printer'}
        width={14}
        value={input.name}
        disabled={!may}
        onType={name => setInput({ ...input, name })}
      />
      <Line
        label="Address"
        width={26}
        value={input.url}
        disabled={!may}
        placeholder="http://"
        onType={url => setInput({ ...input, url })}
      />
      {may && (
        <Button type="submit" variant="outlined" color="secondary" disabled={!ready}>
          {printer ? 'Keep it' : 'Add it'}
        </Button>
      )}
      {printer && (
        <span className={printer.trouble ? textCss.stop : textCss.quiet}>
          {printer.waiting === 0 ? '✓ nothing waits' : `▲ ${count(printer.waiting, 'paper')} waiting`}
          {printer.trouble && `: ${printer.trouble}`}
        </span>
      )}
      <ProblemNote error={save.error} />
    </Form>
  );
}
