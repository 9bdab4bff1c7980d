import { type BuildView } from '@auk/contract';
import { type BuildState, count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { onDevice } from '../../kept.js';
import { Choice } from '../../parts/Choice.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { finishPortion, portionPath, portionQuery } from '../api.js';
import css from '../kits.module.css';

interface Spoiled {
  sku: string;
  quantity: string;
  why: string;
}

const nameOf = (no: string) => `auk.building.${no}`;

/** The portion of a build that this device is at; its id goes with it until it is in stock. */
function portionOf(no: string, anew = false): string {
  const known = anew ? null : onDevice.get(nameOf(no));
  const id = known ?? v7();
  onDevice.set(nameOf(no), id);
  return id;
}

/** Finishes portions, one after another. */
export function FinishBuild({ build }: { build: BuildView }) {
  const [id, setId] = useState(() => portionOf(build.no));
  const begun = useQuery(portionQuery(build.no, id));
  if (!begun.data) return <Waiting error={begun.error} />;
  const done = () => setId(portionOf(build.no, true));
  return <Portion key={id} id={id} build={build} begun={begun.data.state} done={done} />;
}

interface PortionProps {
  id: string;
  build: BuildView;
  begun: BuildState;
  done: () => void;
}

/** What is counted and typed of a portion: what is scanned after something was typed comes on top of it. */
function usePortion({ id, build: b, begun, done }: PortionProps) {
  const [typedMade, setTypedMade] = useState<{ value: string; scanned: number } | null>(null);
  const [typedTo, setTypedTo] = useState<{ value: string; scanned: string | null } | null>(null);
  const [spoiled, setSpoiled] = useState<Spoiled[]>([]);
  const client = useQueryClient();
  const { state, answer, scan, waiting } = useScanSession<BuildState, never>(
    id,
    portionPath(b.no, id),
    b.no,
    begun,
    null,
  );
  const counted = Number(typedMade?.value ?? 0) + state.made - (typedMade?.scanned ?? 0);
  const made = counted > 0 || typedMade?.value ? String(counted) : '';
  const proposed = state.to ?? b.putAway?.code ?? '';
  const to = typedTo && typedTo.scanned === state.to ? typedTo.value : proposed;
  const scrapped = spoiled.map(s => ({ ...s, quantity: Number(s.quantity) }));
  const finish = useMutation({
    mutationFn: () => finishPortion(b.no, { key: id, made: Number(made || 0), to, scrapped }),
    onSuccess: async () => {
      done();
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
    },
  });
  useScanner(scan);
  return {
    made,
    to,
    spoiled,
    setSpoiled,
    answer,
    waiting,
    finish,
    typeMade: (value: string) => setTypedMade({ value, scanned: state.made }),
    typeTo: (value: string) => setTypedTo({ value, scanned: state.to }),
    change: (i: number, more: Partial<Spoiled>) =>
      setSpoiled(spoiled.map((s, k) => (k === i ? { ...s, ...more } : s))),
  };
}

/** One portion. Scanning the kit's own code counts one made; scanning a place says where they are put. */
function Portion(props: PortionProps) {
  const { build: b } = props;
  const portion = usePortion(props);
  const { made, to, spoiled, setSpoiled, answer, waiting, finish, change } = portion;
  const labels = Math.max(1, Number(made || b.canMake || 1));
  return (
    <Form className={css.finish} ready={waiting === 0 && !finish.isPending} onSend={() => finish.mutate()}>
      <div className={`${css.line} ${css.big}`}>
        <Line
          label="Made now"
          digits
          width={8}
          placeholder={String(b.canMake)}
          value={made}
          onType={portion.typeMade}
        />
        <Line
          label={b.putAway ? `Put in (proposed: ${b.putAway.why})` : 'Put in'}
          capitals
          width={14}
          value={to}
          onType={portion.typeTo}
        />
        <Button
          type="submit"
          variant={b.canMake > 0 ? 'contained' : 'outlined'}
          disabled={finish.isPending || waiting > 0 || (Number(made || 0) === 0 && spoiled.length === 0)}
        >
          Into stock
        </Button>
        <a
          href={`/api/v1/products/${encodeURIComponent(b.sku)}/labels.pdf?form=thermal&count=${labels}`}
          target="_blank"
          rel="noreferrer"
        >
          Print {count(labels, 'kit label')}
        </a>
      </div>
      {spoiled.map((s, i) => (
        <div className={css.line} key={`spoiled ${i + 1}`}>
          <Line
            label={`Spoiled units ${i + 1}`}
            digits
            width={7}
            value={s.quantity}
            onType={quantity => change(i, { quantity })}
          />
          <Choice
            label={`Spoiled part ${i + 1}`}
            value={s.sku}
            options={b.lines.map(l => [l.sku, l.name])}
            onChoose={sku => change(i, { sku })}
          />
          <Line label={`Why spoiled ${i + 1}`} width={20} value={s.why} onType={why => change(i, { why })} />
        </div>
      ))}
      <div className={pageCss.row}>
        <Button
          size="small"
          onClick={() => setSpoiled([...spoiled, { sku: b.lines[0]!.sku, quantity: '1', why: '' }])}
        >
          A part was spoiled
        </Button>
        <span className={textCss.quiet} role="status">
          {answer
            ? `${answer.says} ${answer.next}`
            : 'Scan the kit’s own code for each one made, and the place where they go.'}
        </span>
      </div>
      <ProblemNote error={finish.error} />
    </Form>
  );
}
