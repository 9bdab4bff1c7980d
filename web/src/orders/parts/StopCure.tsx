import { OrderView } from '@auk/contract';
import { type StopReason } from '@auk/core';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { actOnProduct, editProducts } from '../../catalog/api.js';
import { editOrder } from '../../parts/api.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { actOnOrder } from '../api.js';
import css from '../orders.module.css';
import { useCure } from '../useCure.js';
import { AskCancel } from './AskCancel.js';
import { LatinAddress } from './LatinAddress.js';
import { LinkListing } from './LinkListing.js';

/** Why an order is Stopped, with its cure: one press where one press can be enough. */
export function StopNote({ stop, order }: { stop: StopReason; order: OrderView }) {
  return (
    <div className={css.stopnote}>
      <p>
        <span className={textCss.stop} aria-hidden="true">
          ▲
        </span>{' '}
        {stop.says}
      </p>
      <Cure stop={stop} order={order} />
    </div>
  );
}

function Cure({ stop, order }: { stop: StopReason; order: OrderView }) {
  switch (stop.code) {
    case 'unlinked-listing':
      return <LinkListing channelSku={stop.subject} />;
    case 'no-code':
      return <GiveCode sku={stop.subject} />;
    case 'bad-postcode':
    case 'bad-country':
    case 'incomplete-address':
    case 'long-address':
    case 'no-phone':
      return <MendAddress stop={stop} order={order} />;
    case 'duplicate':
      return (
        <Press
          words="It is an order of its own"
          id={order.row.id}
          act="accept"
          body={{ code: 'duplicate', subject: stop.subject }}
        />
      );
    case 'unpaid':
      return <Unpaid refunded={stop.subject === 'refunded'} order={order} />;
    case 'retired-product':
      return <Revive sku={stop.subject} />;
    case 'channel-differs':
      return <Decide stop={stop} order={order} />;
    case 'not-latin':
      return <LatinAddress orderId={order.row.id} />;
    case 'no-customs':
      return <Customs sku={stop.subject} lacks={stop.cure} />;
    default:
      return <p className={textCss.quiet}>{stop.cure}</p>;
  }
}

/** The money is there, or the order goes no further. */
function Unpaid({ refunded, order }: { refunded: boolean; order: OrderView }) {
  const { id } = order.row;
  const [cancels, setCancels] = useState(false);
  const cancel = useCure((reason: string) => actOnOrder(id, 'cancel', { reason }));
  return (
    <div className={pageCss.row} style={{ gap: 8 }}>
      <Press words={refunded ? 'It was paid again' : 'It is paid'} id={id} act="paid" body={{}} />
      <Button size="small" variant="outlined" color="error" onClick={() => setCancels(true)}>
        Cancel the order
      </Button>
      {cancels && (
        <AskCancel
          order={order}
          reason={refunded ? 'refunded' : 'not paid'}
          busy={cancel.isPending}
          error={cancel.error}
          onLeave={() => setCancels(false)}
          onCancel={reason => cancel.mutate(reason)}
        />
      )}
    </div>
  );
}

interface PressProps {
  words: string;
  /** The order, and what is done to it. */
  id: string;
  act: string;
  body: object;
}

function Press({ words, id, act, body }: PressProps) {
  const cure = useCure(() => actOnOrder(id, act, body));
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        disabled={cure.isPending}
        onClick={() => cure.mutate(undefined)}
      >
        {words}
      </Button>
      <ProblemNote error={cure.error} />
    </>
  );
}

function GiveCode({ sku }: { sku: string }) {
  const [code, setCode] = useState('');
  const give = useCure(() => actOnProduct(sku, '/codes', { code }));
  return (
    <Form className={pageCss.inline} onSend={() => give.mutate(undefined)}>
      <Line
        bare
        width={16}
        label={`Code of ${sku}`}
        placeholder="scan or type its code"
        value={code}
        onType={setCode}
      />
      <Button
        type="submit"
        variant="outlined"
        color="secondary"
        size="small"
        disabled={code.trim() === '' || give.isPending}
      >
        Give the code
      </Button>
      <Link to={`/products/${encodeURIComponent(sku)}`}>The product</Link>
      <ProblemNote error={give.error} />
    </Form>
  );
}

function MendAddress({ stop, order }: { stop: StopReason; order: OrderView }) {
  const field = stop.subject as keyof OrderView['shipTo'];
  const [text, setText] = useState(order.shipTo[field] ?? '');
  const mend = useCure(() =>
    editOrder(order.row.id, {
      version: order.version,
      shipTo: { ...order.shipTo, [field]: text },
    }),
  );
  return (
    <Form className={pageCss.inline} onSend={() => mend.mutate(undefined)}>
      <Line bare width={16} label={`Correct ${field}`} value={text} onType={setText} />
      <Button
        type="submit"
        variant="outlined"
        color="secondary"
        size="small"
        disabled={text === order.shipTo[field] || mend.isPending}
      >
        Correct it
      </Button>
      <span className={textCss.quiet}>{stop.cure}</span>
      <ProblemNote error={mend.error} />
    </Form>
  );
}

function Revive({ sku }: { sku: string }) {
  const revive = useCure(() => editProducts([sku], { stage: 'Live' }));
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        color="secondary"
        disabled={revive.isPending}
        onClick={() => revive.mutate(undefined)}
      >
        Make it live again
      </Button>
      <ProblemNote error={revive.error} />
    </>
  );
}

function Decide({ stop, order }: { stop: StopReason; order: OrderView }) {
  const difference = order.differences.find(d => stop.says.includes(d.words) && stop.says.includes(d.theirs));
  if (!difference) return <p className={textCss.quiet}>{stop.cure}</p>;
  const at = { id: order.row.id, act: `differences/${difference.id}` };
  return (
    <div className={pageCss.row} style={{ gap: 8 }}>
      <Press words={`Take “${difference.theirs}”`} {...at} body={{ take: true }} />
      <Press words={`Keep “${difference.ours}”`} {...at} body={{ take: false }} />
    </div>
  );
}

/** Facts that customs ask for, by the words with which the stop names them. */
const CUSTOMS: [words: string, fact: string, most: number][] = [
  ['customs code', 'customsCode', 14],
  ['country of origin', 'origin', 2],
  ['UN number', 'unNumber', 7],
  ['hazard class', 'hazardClass', 8],
  ['proper shipping name', 'hazardName', 80],
];

function Customs({ sku, lacks }: { sku: string; lacks: string }) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const wanted = CUSTOMS.filter(([words]) => lacks.includes(words));
  const save = useCure(() => editProducts([sku], typed));
  const whole = wanted.every(([, fact]) => typed[fact]?.trim());
  return (
    <Form className={pageCss.inline} onSend={() => whole && save.mutate(undefined)}>
      {wanted.map(([words, fact, most]) => (
        <Line
          key={fact}
          width={fact === 'origin' ? 8 : 13}
          label={`${words} of ${sku}`}
          capitals={fact === 'origin'}
          most={most}
          value={typed[fact] ?? ''}
          onType={text => setTyped({ ...typed, [fact]: text })}
        />
      ))}
      {wanted.length > 0 && (
        <Button
          type="submit"
          variant="outlined"
          color="secondary"
          size="small"
          disabled={!whole || save.isPending}
        >
          Save
        </Button>
      )}
      {/weight/.test(lacks) && <Link to={`/products/${encodeURIComponent(sku)}`}>Weigh {sku}</Link>}
      <ProblemNote error={save.error} />
    </Form>
  );
}
