import { can, MakeWall, type WallView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Form } from '../../parts/Form.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { useMe } from '../../people/useMe.js';
import { StockNav } from '../../stock/parts/StockNav.js';
import { makeWall, removeWall, wallsQuery } from '../api.js';
import { WallCells } from '../parts/WallCells.js';

/** The put walls of the house, each as it stands: whose goods lie in which cell. */
export default function WallsPage() {
  const walls = useQuery(wallsQuery);
  const may = can(useMe(), 'places.change');
  const cells = walls.data?.flatMap(w => w.cells) ?? [];
  return (
    <>
      <StockNav />
      <Head
        title="Put walls"
        about={`Heaps are sorted here, a cell for each order. ${count(cells.length, 'cell')}, ${cells.filter(c => c.order).length} with an order.`}
      />
      {may && <NewWall />}
      <ProblemNote error={walls.error} />
      {walls.data?.map(w => (
        <OneWall key={w.wall} wall={w} may={may} />
      ))}
      {walls.data?.length === 0 && (
        <p>There is no put wall yet. With one, orders can be picked as heaps and sorted here.</p>
      )}
    </>
  );
}

function OneWall({ wall: w, may }: { wall: WallView; may: boolean }) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => removeWall(w.wall),
    onSuccess: async () => {
      say(`Wall ${w.wall} is taken down.`);
      await changed(client, 'stock');
    },
  });
  return (
    <section className={pageCss.panel} aria-label={`Wall ${w.wall}`}>
      <div className={pageCss.tools}>
        <h2 className={pageCss.grow}>Wall {w.wall}</h2>
        <Button size="small" href={`/api/v1/stock/walls/${w.wall}/labels.pdf?form=sheet`} target="_blank">
          Print labels
        </Button>
        {may && (
          <Button size="small" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Take down
          </Button>
        )}
      </div>
      <ProblemNote error={remove.error} />
      <WallCells wall={w} />
    </section>
  );
}

/** Sets up a further wall. */
function NewWall() {
  const [input, setInput] = useState({ rows: '3', columns: '4' });
  const client = useQueryClient();
  const read = MakeWall.safeParse({ rows: Number(input.rows), columns: Number(input.columns) });
  const make = useMutation({
    mutationFn: makeWall,
    onSuccess: async ({ wall }) => {
      say(`Wall ${wall} is set up. Print its labels.`);
      await changed(client, 'stock', 'orders');
    },
  });
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk}`}
      label="A further put wall"
      ready={read.success && !make.isPending}
      onSend={() => read.success && make.mutate(read.data)}
    >
      <Line label="Rows" digits width={6} value={input.rows} onType={rows => setInput({ ...input, rows })} />
      <Line
        label="Columns"
        digits
        width={6}
        value={input.columns}
        onType={columns => setInput({ ...input, columns })}
      />
      <Button type="submit" variant="outlined" color="secondary" disabled={!read.success || make.isPending}>
        Set it up
      </Button>
      <ProblemNote error={make.error} />
    </Form>
  );
}
