import type { InboundLineView, InboundView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { askCodes, scanGoods } from '../api.js';
import css from '../inbound.module.css';
import { useAct } from '../useAct.js';

/** The code that the network will scan beside our own; one of the goods that is scanned says which is right. */
export function Codes({ view, may }: { view: InboundView; may: boolean }) {
  const [text, setText] = useState('');
  const ask = useAct(() => askCodes(view.no));
  const scan = useAct(
    (code: string) => scanGoods(view.no, code),
    () => setText(''),
  );
  const unasked = view.lines.some(l => l.code === null);
  return (
    <>
      {may && view.lines.length > 0 && (
        <div className={css.acts}>
          <Button
            variant={unasked ? 'contained' : 'outlined'}
            disabled={ask.isPending}
            onClick={() => ask.mutate()}
          >
            {unasked ? `Ask ${view.network} for its codes` : 'Ask again'}
          </Button>
          {!unasked && (
            <Form ready={text.trim() !== ''} onSend={() => scan.mutate(text.trim())}>
              <Line
                bare
                label="Code on the goods"
                placeholder="scan one of the goods"
                width={16}
                value={text}
                onType={setText}
              />
            </Form>
          )}
        </div>
      )}
      {scan.data && (
        <p role="status" className={scan.data.confirmed ? textCss.good : textCss.stop}>
          {scan.data.confirmed ? '✓' : '▲'} {scan.data.says}
        </p>
      )}
      <ProblemNote error={ask.error ?? scan.error} />
      {view.lines
        .filter(l => l.code)
        .sort((a, b) => Number(settled(a)) - Number(settled(b)))
        .map(l => (
          <OneCode key={l.sku} line={l} />
        ))}
    </>
  );
}

const settled = (l: InboundLineView): boolean =>
  l.confirmed !== null || l.code?.state === 'same' || l.code?.state === 'case';

/** Codes of digits are written with all 14, so that two can be compared. */
const written = (code: string | null): string =>
  code === null ? 'none' : /^\d{8,14}$/.test(code) ? code.padStart(14, '0') : code;

function OneCode({ line: l }: { line: InboundLineView }) {
  const { code } = l;
  const good = settled(l);
  return (
    <div className={css.code}>
      <span>
        <b className={good ? textCss.good : textCss.stop}>{good ? '✓' : '▲'}</b> {l.name}{' '}
        <span className={`${textCss.code} ${textCss.quiet}`}>{l.sku}</span>
      </span>
      <span className={textCss.code}>
        <small>ours</small> {written(code!.ours)}
      </span>
      <span className={textCss.code}>
        <small>theirs</small> {written(code!.theirs)}
      </span>
      <small className={good ? textCss.quiet : textCss.stop}>
        {l.confirmed !== null ? 'Confirmed by a scan of the goods.' : code!.says}
        {l.category && <span className={textCss.quiet}> {l.category}</span>}
      </small>
    </div>
  );
}
