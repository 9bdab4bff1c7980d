import { can, type InboundView, type InboundWays } from '@auk/contract';
import { type ComparedWay, count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { DayField } from '../../parts/DayField.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import sentenceCss from '../../parts/sentence.module.css';
import { TypedNumber } from '../../parts/TypedNumber.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import {
  cancelShipment,
  changeShipment,
  followNow,
  reserveShipment,
  shipmentQuery,
  waysQuery,
} from '../api.js';
import css from '../inbound.module.css';
import { BoxPlan, type ShownBox } from '../parts/BoxPlan.js';
import { Codes } from '../parts/Codes.js';
import { PalletPlan } from '../parts/PalletPlan.js';
import { PartPanel } from '../parts/PartPanel.js';
import { PlanChanged } from '../parts/PlanChanged.js';
import { Prepared } from '../parts/Prepared.js';
import { Section } from '../parts/Section.js';
import { Ways } from '../parts/Ways.js';
import { What } from '../parts/What.js';
import { InboundMark } from '../stageMark.js';
import { useAct } from '../useAct.js';
import { AT_DOOR, HANDED, SOURCES, STORAGES } from '../words.js';

/** One shipment to a network's centers, from draft to the last count. */
export default function InboundPage() {
  const { no } = useParams();
  const shipment = useQuery(shipmentQuery(no!));
  if (!shipment.data) return <Waiting error={shipment.error} />;
  return <Shipment key={no} view={shipment.data} />;
}

const NAMES = {
  from: 'From',
  to: 'To',
  what: 'What',
  codes: 'Codes',
  prepared: 'Prepared',
  boxes: 'Boxes',
} as const;
type SectionName = keyof typeof NAMES;

/** Ways and boxes of a draft; they hang on what goes, how and where, and are planned anew when that changed. */
function usePlans(view: InboundView, reserved: boolean) {
  const of = JSON.stringify([
    view.lines.map(l => [l.sku, l.units, l.perCase, l.by]),
    view.storage,
    view.weeks,
    view.handing,
    view.door,
  ]);
  return useQuery({
    ...waysQuery(view.no, of),
    enabled: !reserved && view.stage === 'Draft' && view.lines.length > 0 && view.rules !== null,
  });
}

function Shipment({ view }: { view: InboundView }) {
  const me = useMe();
  const reserved = view.parts.some(p => p.order !== null);
  const changes = can(me, 'inbound.change');
  const may = view.stage === 'Draft' && !reserved && changes;
  const plans = usePlans(view, reserved);
  return (
    <>
      <Head
        tab={`${view.name} ${view.no}`}
        title={
          <>
            {view.name} <small className={textCss.code}>{view.no}</small>{' '}
            <small>
              to {view.network} · <InboundMark stage={view.stage} />
            </small>
          </>
        }
      >
        <Acts view={view} reserved={reserved} />
      </Head>
      {view.silent && <p className={textCss.risk}>▲ {view.silent} What it told before is shown.</p>}
      {view.planChanged.length > 0 && <PlanChanged view={view} may={changes} />}
      <div className={css.page}>
        <div>
          <Sections view={view} may={may} />
          {reserved && (
            <>
              <OnItsWay view={view} />
              {view.way?.differs && <p className={textCss.risk}>▲ {view.way.differs}</p>}
              {view.parts.map(p => (
                <PartPanel key={p.id} view={view} part={p} />
              ))}
            </>
          )}
          {plans.isFetching && <p role="status">Planning boxes and ways …</p>}
          <ProblemNote error={plans.error} />
          {plans.data && !reserved && <Ways view={view} ways={plans.data} may={may} />}
          <Story view={view} />
        </div>
        <Packed view={view} plans={plans.data ?? null} may={view.stage === 'Draft' && changes} />
      </div>
    </>
  );
}

/** What a draft is made of; each closes when it is satisfied. */
function Sections({ view, may }: { view: InboundView; may: boolean }) {
  const me = useMe();
  const [opened, setOpened] = useState<Partial<Record<SectionName, boolean>>>({});
  const section = (name: SectionName, wide: boolean, children: React.ReactNode) => {
    const { done, says } = view.sections.find(s => s.section === name)!;
    // What wants something is open; what is satisfied closes by itself. Goods are added until a way is chosen.
    const adding = name === 'what' && may && view.way === null;
    const open = opened[name] ?? ((!done || adding) && name !== 'boxes');
    return (
      <Section
        key={name}
        name={NAMES[name]}
        says={says}
        done={done}
        open={open}
        wide={wide}
        toggle={() => setOpened({ ...opened, [name]: !open })}
      >
        {children}
      </Section>
    );
  };
  const asks = view.stage === 'Draft' && can(me, 'inbound.change');
  const packed = view.parts.map(p => `${p.center}: ${p.boxes.length} of ${p.planned.length} packed`);
  return (
    <>
      {section('from', false, <FromTo view={view} may={may} />)}
      {section('to', false, <FromTo view={view} may={may} />)}
      {section('what', true, <What view={view} may={may} />)}
      {section('codes', false, <Codes view={view} may={asks} />)}
      {section('prepared', true, <Prepared view={view} may={may} works={can(me, 'inbound.prepare')} />)}
      {section('boxes', false, <p>{packed.join(' · ')}</p>)}
    </>
  );
}

interface PackedProps {
  view: InboundView;
  plans: InboundWays | null;
  may: boolean;
}

/** Beside it: what it costs, and its boxes and pallets as they are planned or packed. */
function Packed({ view, plans, may }: PackedProps) {
  const [at, look] = useState(0);
  const going = view.parts.filter(p => p.stage !== 'Cancelled');
  const planned = going.flatMap(p =>
    p.planned.map(b => ({ ...b, of: { part: p.id, center: p.center, no: b.no } })),
  );
  const boxes: ShownBox[] =
    planned.length > 0
      ? planned.map((b, i) => ({ ...b, no: i + 1 }))
      : (plans?.boxes ?? []).map(b => ({ ...b, of: null }));
  const pallets = going.flatMap(p => p.pallets).map((p, i) => ({ ...p, no: i + 1 }));
  return (
    <aside className={css.beside}>
      <Total view={view} best={plans?.table.ways[0] ?? null} />
      {view.rules && <PalletPlan pallets={pallets} kind={view.rules.pallet} />}
      <BoxPlan
        boxes={boxes}
        at={at}
        look={look}
        mostMg={view.rules?.limits.mostMg ?? null}
        bound={planned.length > 0 ? null : (plans?.bound ?? null)}
        may={may}
      />
    </aside>
  );
}

function Acts({ view, reserved }: { view: InboundView; reserved: boolean }) {
  const me = useMe();
  const [giving, setGiving] = useState(false);
  // Pressed again where an answer was lost, each is the same act.
  const [keys] = useState(() => ({ reserve: v7(), cancel: v7() }));
  const reserve = useAct(() => reserveShipment(view.no, keys.reserve));
  const cancel = useAct(
    () => cancelShipment(view.no, keys.cancel),
    () => setGiving(false),
  );
  const open = ['Draft', 'Boxed', 'Booked'].includes(view.stage);
  if (!can(me, 'inbound.change') || !open) return null;
  const ready = view.way !== null && view.sections.every(s => s.done || s.section === 'boxes');
  return (
    <>
      <Button variant="outlined" color="secondary" onClick={() => setGiving(true)}>
        Cancel the shipment
      </Button>
      {!reserved && (
        <Button variant="contained" disabled={!ready || reserve.isPending} onClick={() => reserve.mutate()}>
          Reserve it
        </Button>
      )}
      <ProblemNote error={reserve.error} />
      {giving && (
        <Ask
          title={`Cancel ${view.name}?`}
          act="Cancel it"
          danger
          busy={cancel.isPending}
          error={cancel.error}
          onAct={() => cancel.mutate()}
          onLeave={() => setGiving(false)}
        >
          What was picked or packed is laid on the staging place, to be put back. What is promised is free
          again.
        </Ask>
      )}
    </>
  );
}

/** The parts of a shipment, and asking now what became of them. */
function OnItsWay({ view }: { view: InboundView }) {
  const me = useMe();
  const follow = useAct(() => followNow(view.no));
  const asks = view.parts.some(p => p.booking.state === 'booked' || p.booking.state === 'unknown');
  return (
    <>
      <div className={css.acts}>
        <h2>{view.parts.length > 1 ? 'To each center' : 'On its way'}</h2>
        {asks && can(me, 'inbound.change') && (
          <Button size="small" variant="outlined" disabled={follow.isPending} onClick={() => follow.mutate()}>
            Ask now what became of it
          </Button>
        )}
      </div>
      <ProblemNote error={follow.error} />
    </>
  );
}

function FromTo({ view, may }: { view: InboundView; may: boolean }) {
  const { source, storage, shipDay, weeks, handing, door } = view;
  const change = useAct((more: object) =>
    changeShipment(view.no, { source, storage, shipDay, weeks, handing, door, ...more }),
  );
  return (
    <>
      <div className={pageCss.inline}>
        <Choice
          label="Comes from"
          value={source}
          disabled={!may}
          options={SOURCES}
          onChoose={v => change.mutate({ source: v })}
        />
        <Choice
          label="Storage there"
          value={storage}
          disabled={!may}
          options={STORAGES}
          onChoose={v => change.mutate({ storage: v })}
        />
        <div style={{ width: '13rem' }}>
          <DayField
            label="Leaves on"
            value={shipDay}
            readOnly={!may}
            onChange={d => change.mutate({ shipDay: d })}
          />
        </div>
        <Choice
          label="Handed over"
          value={handing}
          disabled={!may}
          options={HANDED}
          onChoose={v => change.mutate({ handing: v })}
        />
        {handing === 'fetched' && (
          <Choice
            label="At our door"
            value={door}
            disabled={!may}
            options={AT_DOOR}
            onChoose={v => change.mutate({ door: v })}
          />
        )}
        <span className={sentenceCss.sentence}>
          for{' '}
          <TypedNumber
            label="Weeks of sales"
            value={weeks}
            least={1}
            most={52}
            onType={n => change.mutate({ weeks: n })}
          />{' '}
          weeks of sales
        </span>
      </div>
      <ProblemNote error={change.error} />
    </>
  );
}

/** What it costs together, a unit, and when it is on sale; always beside. */
function Total({ view, best }: { view: InboundView; best: ComparedWay | null }) {
  const { way } = view;
  const booked = view.parts.filter(p => p.booking.state === 'booked');
  return (
    <div className={css.total} role="status" aria-label="Running total">
      {way ? (
        <>
          <b>{formatMoney(way.sumMinor, view.currency)}</b>
          {formatMoney(Math.round(way.perUnit), view.currency)} a unit, on sale in {count(way.days, 'day')}
          <div className={textCss.quiet}>
            {way.placement === 'spread' ? 'spread' : 'one dock'}, {way.form}, {way.carrier}
            {view.planCode && `, their plan ${view.planCode}`}
          </div>
          {booked.map(p => (
            <div key={p.id} className={textCss.good}>
              ✓ {p.center} booked for {formatMoney(p.booking.minor ?? 0, p.booking.currency ?? view.currency)}
            </div>
          ))}
        </>
      ) : (
        <>
          <b>{best ? `about ${formatMoney(best.sumMinor, view.currency)}` : '—'}</b>
          {best &&
            `${formatMoney(Math.round(best.perUnit), view.currency)} a unit, on sale in ${count(best.days, 'day')}, the best way. `}
          No way is chosen yet.
        </>
      )}
    </div>
  );
}

function Story({ view }: { view: InboundView }) {
  return (
    <section className={pageCss.panel}>
      <h2>What happened</h2>
      <ul className={pageCss.history} aria-label="What happened">
        {view.story.map((e, i) => (
          <li key={i}>
            <span className={textCss.quiet}>{moment(e.at)}</span>
            <span>
              {e.says} {e.sscc && <span className={textCss.code}>{e.sscc}</span>}
              {e.person && <span className={textCss.quiet}> {e.person}</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
