import { type BoxRow, can, type PackingChoices } from '@auk/contract';
import { minorDigits } from '@auk/core';
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
import { Sortable, useSorted } from '../../parts/Sortable.js';
import { say } from '../../parts/say.js';
import sentenceCss from '../../parts/sentence.module.css';
import { Tick } from '../../parts/Tick.js';
import { TypedNumber } from '../../parts/TypedNumber.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { arrangeBoxes, boxesQuery, chooseProposals, saveBox } from '../api.js';
import { type BoxText, NEW_BOX, readBox, textOf } from '../boxText.js';
import { Guesses } from '../parts/Guesses.js';

const KINDS: Options<BoxText['kind']> = [
  ['box', 'box'],
  ['mailer', 'mailer'],
];

/** The kinds of boxes, in the order in which they are preferred where two cost the same. */
export default function BoxesPage() {
  const client = useQueryClient();
  const all = useQuery(boxesQuery);
  const may = can(useMe(), 'boxes.change');
  const boxes = all.data?.boxes ?? [];
  const arrange = useMutation({
    mutationFn: (codes: string[]) => arrangeBoxes(codes),
    // What was moved is seen at once, and goes back when it could not be kept.
    onMutate: order =>
      client.setQueryData(
        boxesQuery.queryKey,
        before => before && { ...before, boxes: order.map(c => before.boxes.find(b => b.code === c)!) },
      ),
    onSettled: () => changed(client, 'boxes'),
  });
  return (
    <>
      <SetupNav />
      <Head
        title="Boxes"
        about="What the bench proposes. The cheapest that takes all of it comes first; where two cost the same, the one that stands higher."
      />
      {all.data && <Proposals choices={all.data.choices} currency={all.data.currency} may={may} />}
      <ProblemNote error={all.error ?? arrange.error} />
      <Sortable
        ids={boxes.map(b => b.code)}
        nameOf={code => `Box ${boxes.find(b => b.code === code)?.name ?? code}`}
        onOrder={order => arrange.mutate(order)}
      >
        {boxes.map(b => (
          <OneBox key={b.code} box={b} may={may} currency={all.data!.currency} />
        ))}
      </Sortable>
      {all.data && may && <BoxForm key={boxes.length} box={null} may currency={all.data.currency} />}
      {all.data && <Guesses guesses={all.data.guesses} may={may} />}
    </>
  );
}

/** How boxes are proposed and weights are judged, as a sentence of which the numbers are changed. */
function Proposals({ choices, currency, may }: { choices: PackingChoices; currency: string; may: boolean }) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: chooseProposals,
    onSuccess: () => say('Kept, for orders that are opened from now on.'),
    onSettled: () => changed(client, 'boxes'),
  });
  const per = 10 ** minorDigits(currency);
  const shown = (of: keyof PackingChoices, unit: number) => Math.round((choices[of] / unit) * 100) / 100;
  const number = (label: string, of: keyof PackingChoices, unit: number, most: number) =>
    may ? (
      <TypedNumber
        label={label}
        value={shown(of, unit)}
        least={0}
        most={most}
        onType={n => save.mutate({ ...choices, [of]: Math.round(n * unit) })}
      />
    ) : (
      <b>{shown(of, unit)}</b>
    );
  return (
    <>
      <p className={`${sentenceCss.sentence} ${sentenceCss.small}`}>
        Around what is fragile {number('Padding in inches', 'padding', 254, 3.9)} in of padding. A further
        parcel counts as {number('Cost of a parcel', 'parcelCostMinor', per, 10_000)} {currency} beside its
        box. A weight may be off by {number('Tolerance in grams', 'toleranceMg', 1_000, 10_000)} g or{' '}
        {number('Tolerance in percent', 'tolerancePpm', 10_000, 50)} %, whichever is more.
      </p>
      <ProblemNote error={save.error} />
    </>
  );
}

function OneBox({ box, may, currency }: { box: BoxRow; may: boolean; currency: string }) {
  const { ref, style, handle } = useSorted(box.code, box.name);
  return (
    <div ref={ref} className={pageCss.tools} style={style}>
      {may && handle}
      <BoxForm box={box} may={may} currency={currency} />
    </div>
  );
}

function BoxForm({ box, may, currency }: { box: BoxRow | null; may: boolean; currency: string }) {
  const client = useQueryClient();
  const [input, setInput] = useState(box ? textOf(box, currency) : NEW_BOX);
  const read = readBox(input, currency);
  const touched = JSON.stringify(input) !== JSON.stringify(box ? textOf(box, currency) : NEW_BOX);
  const save = useMutation({
    mutationFn: saveBox,
    onSuccess: async () => {
      say(`Box ${input.name} is kept.`);
      await changed(client, 'boxes');
    },
  });
  const set = (change: Partial<BoxText>) => setInput({ ...input, ...change });
  const field = (
    key: 'name' | 'size' | 'tare' | 'limit' | 'price' | 'stock',
    label: string,
    width: number,
  ) => (
    <Line
      label={label}
      width={width}
      value={input[key]}
      disabled={!may}
      onType={text => set({ [key]: text })}
    />
  );
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk} ${pageCss.grow}`}
      label={box ? `Box ${box.code}` : 'A further box'}
      ready={may && touched && read.ok && !save.isPending}
      onSend={() => read.ok && save.mutate(read.value)}
    >
      {box ? (
        <span className={textCss.code}>{box.code}</span>
      ) : (
        <Line label="A further box" capitals width={7} value={input.code} onType={code => set({ code })} />
      )}
      {field('name', 'Name', 6)}
      <Choice
        label="Kind"
        value={input.kind}
        options={KINDS}
        disabled={!may}
        onChoose={kind => set({ kind })}
      />
      {field('size', 'Inner size', 10)}
      {field('tare', 'Empty weight', 7)}
      {field('limit', 'Carries', 6)}
      {field('price', 'Price', 5)}
      {field('stock', 'In stock', 6)}
      {box && <Tick label="retired" checked={input.retired} onTick={retired => may && set({ retired })} />}
      {may && touched && (
        <Button type="submit" variant="outlined" color="secondary" disabled={!read.ok || save.isPending}>
          {box ? 'Keep it' : 'Add it'}
        </Button>
      )}
      {touched && !read.ok && <span className={textCss.stop}>{read.problem}</span>}
      <ProblemNote error={save.error} />
    </Form>
  );
}
