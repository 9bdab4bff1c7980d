import { can, OrderView, Person } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { Thread } from '../../buyers/parts/Thread.js';
import { ElsewherePanel } from '../../elsewhere/parts/ElsewherePanel.js';
import { Photos } from '../../packing/parts/Photos.js';
import { orderQuery } from '../../parts/api.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { StageMark } from '../../parts/stage.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { OrderButtons } from '../../rules/parts/OrderButtons.js';
import { OrderWhy } from '../../rules/parts/OrderWhy.js';
import css from '../orders.module.css';
import { AddressPanel } from '../parts/AddressPanel.js';
import { Beside } from '../parts/Beside.js';
import { DraftScans } from '../parts/DraftScans.js';
import { LinesPanel } from '../parts/LinesPanel.js';
import { OrderActs } from '../parts/OrderActs.js';
import { MoneyPanel, WayPanel } from '../parts/SidePanels.js';
import { SplitBar } from '../parts/SplitBar.js';
import { StopNote } from '../parts/StopCure.js';
import { HistoryPanel, NotesPanel, RelatedOrders } from '../parts/StoryPanels.js';
import { useOrderEdit } from '../useOrderEdit.js';

/** One order's whole story on one page; everything on it is changed in place. */
export default function OrderPage() {
  const me = useMe();
  const { id } = useParams();
  const order = useQuery(orderQuery(id!));
  if (!order.data) return <Waiting error={order.error} />;
  return <Order key={id} order={order.data} me={me} />;
}

function Order({ order: o, me }: { order: OrderView; me: Person }) {
  const desk = can(me, 'orders.change');
  const editable = desk && !['Departed', 'Cancelled'].includes(o.row.stage);
  const edit = useOrderEdit(o);
  const [splitting, setSplitting] = useState<Record<string, number> | null>(null);
  return (
    <div>
      <Head
        tab={o.row.channelNumber}
        title={
          <>
            <span className={textCss.code}>{o.row.channelNumber}</span> · {o.row.buyer || 'no buyer yet'}
          </>
        }
        about={
          <>
            <StageMark stage={o.row.stage} />{' '}
            {[
              o.draft ? 'a draft: neither checked nor reserved' : o.stops.length > 0 ? null : o.row.reason,
              o.row.channel,
            ]
              .filter(Boolean)
              .join(' · ')}{' '}
            · <span className={textCss.code}>{o.row.no}</span>
          </>
        }
      >
        <Beside id={o.row.id} />
        {!o.draft && o.row.stage !== 'Cancelled' && <OrderButtons orderId={o.row.id} />}
        <OrderActs order={o} can={editable} onSplit={() => setSplitting({})} />
      </Head>
      {edit.notes}
      <RelatedOrders order={o} can={editable} />
      {o.stops.map(s => (
        <StopNote key={s.code + s.subject + s.says} stop={s} order={o} />
      ))}
      {o.undoes && editable && (
        <p className={css.undoes}>
          ▣ Changing units or address: {o.undoes.replace('This undoes work: ', '')}
        </p>
      )}
      {o.draft && editable && <DraftScans id={o.row.id} />}
      <div className={pageCss.three} key={edit.epoch}>
        <div>
          <LinesPanel
            order={o}
            save={edit.save}
            can={editable}
            split={{ on: splitting !== null, units: splitting ?? {}, set: setSplitting }}
          />
          {splitting && <SplitBar order={o} units={splitting} leave={() => setSplitting(null)} />}
          <NotesPanel order={o} can={desk} />
          {!o.draft && <Thread orderId={o.row.id} />}
          <Photos orderId={o.row.id} />
          <HistoryPanel order={o} />
        </div>
        <AddressPanel order={o} save={edit.save} can={editable} />
        <div>
          <ElsewherePanel orderId={o.row.id} can={editable} />
          <MoneyPanel order={o} save={edit.save} can={desk} open={editable} />
          <WayPanel order={o} save={edit.save} can={editable} />
          {!o.draft && <OrderWhy orderId={o.row.id} open={editable} />}
        </div>
      </div>
    </div>
  );
}
