import type { PlannedListView, PlanView } from '@auk/contract';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import DragIndicator from '@mui/icons-material/DragIndicator';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { Choice } from '../../parts/Choice.js';
import { CodeLink } from '../../parts/Code.js';
import { clock } from '../../parts/format.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { lineOf } from '../../places/line.js';
import css from '../planning.module.css';

interface Props {
  plan: PlanView;
  /** Lists that are drawn on the map, by their pattern. */
  drawn: readonly string[];
  show: (listId: string) => void;
  chosen: ReadonlySet<string>;
  choose: (ids: ReadonlySet<string>) => void;
  /** Moves an order to another list; null is a new one. */
  move: (orderId: string, to: string | null) => void;
  lock: (listId: string, locked: boolean) => void;
}

const NEW = 'new';
/** A press becomes a drag after so many pixels. */
const DRAG_PX = 6;

/** The lists of a plan, each opened in place to its orders, which can be dragged from one to another. */
export function PlanLists(props: Props) {
  const { plan, drawn, show, chosen, choose, move, lock } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }),
    useSensor(KeyboardSensor),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (!over) return;
        move(String(active.id), over.id === NEW ? null : String(over.id));
      }}
    >
      <DataTable
        name="planned"
        label="Planned lists"
        rows={plan.lists}
        idOf={l => l.id}
        columns={columnsOf(drawn, show, lock)}
        chosen={{ ids: chosen, set: choose, nameOf: l => `list ${l.seq}` }}
        inside={l => <Orders list={l} lists={plan.lists} move={move} />}
      />
      <NewList />
    </DndContext>
  );
}

const columnsOf = (
  drawn: readonly string[],
  show: Props['show'],
  lock: Props['lock'],
): Column<PlannedListView>[] => [
  {
    id: 'walk',
    head: 'Walk',
    width: 6,
    cell: l => <Pattern nth={drawn.indexOf(l.id)} seq={l.seq} onShow={() => show(l.id)} />,
  },
  { id: 'list', head: 'List', width: 10, cell: l => <ListName list={l} /> },
  { id: 'orders', head: 'Orders', right: true, width: 7, cell: l => l.orders.length },
  { id: 'totes', head: 'Totes', right: true, width: 6, cell: l => l.totes },
  { id: 'stops', head: 'Stops', right: true, width: 6, cell: l => l.stops },
  { id: 'pieces', head: 'Pieces', right: true, width: 6, cell: l => l.units },
  { id: 'metres', head: 'Metres', right: true, width: 7, cell: l => `${l.metres} m` },
  { id: 'time', head: 'Time', right: true, width: 7, cell: l => `${l.minutes} min` },
  { id: 'done', head: 'Picked by', width: 15, cell: l => <DoneBy list={l} /> },
  {
    id: 'lock',
    head: 'Lock',
    width: 7,
    fixed: true,
    cell: l =>
      l.released === null && (
        <Button size="small" onClick={() => lock(l.id, !l.locked)}>
          {l.locked ? 'Unlock' : 'Lock'}
        </Button>
      ),
  },
];

/** The pattern of a walk that is drawn; or a press that draws it. */
function Pattern({ nth, seq, onShow }: { nth: number; seq: number; onShow: () => void }) {
  if (nth === -1)
    return (
      <Button size="small" onClick={onShow}>
        Show
      </Button>
    );
  const { stroke, dash, width } = lineOf(nth);
  return (
    <Button size="small" onClick={onShow} aria-label={`Show the walk of list ${seq} alone`}>
      <svg width="40" height="10" aria-hidden="true">
        <path d="M2 5H38" stroke={stroke} strokeWidth={width} strokeDasharray={dash} />
      </svg>
    </Button>
  );
}

/** How a list is called; orders can be dropped on it. */
function ListName({ list: l }: { list: PlannedListView }) {
  const { setNodeRef, isOver } = useDroppable({ id: l.id, disabled: l.locked || l.released !== null });
  return (
    <div ref={setNodeRef} className={isOver ? css.over : css.target}>
      {l.released ? <CodeLink to={`/pick/${l.released}`}>{l.released}</CodeLink> : <b>List {l.seq}</b>}
      <div className={textCss.quiet}>
        {[l.released && '● released', l.locked && '■ locked', l.tooLarge && '! more than a trolley carries']
          .filter(Boolean)
          .join(', ')}
      </div>
    </div>
  );
}

function DoneBy({ list: l }: { list: PlannedListView }) {
  if (l.released) return null;
  const first = l.orders.flatMap(o => o.cutOff ?? []).sort()[0];
  const good = l.late === 0 && l.finish !== null;
  const late = l.late > 0 ? `${l.late} late` : '';
  return (
    <>
      <span className={good ? textCss.good : textCss.stop}>
        {good ? '✓' : '✕'} {l.finish === null ? 'after the shift' : clock(l.finish)}
      </span>
      <div className={textCss.quiet}>
        {[late, first && `leaves ${clock(first)}`].filter(Boolean).join(', ')}
      </div>
    </>
  );
}

/** The orders of a list, each with where else it may go. */
function Orders({
  list,
  lists,
  move,
}: {
  list: PlannedListView;
  lists: readonly PlannedListView[];
  move: Props['move'];
}) {
  const fixed = list.locked || list.released !== null;
  const others = lists.filter(l => l.id !== list.id && !l.locked && l.released === null);
  return (
    <ul className={css.orders}>
      {list.orders.map(o => (
        <li key={o.id}>
          {fixed ? <span /> : <Handle id={o.id} no={o.no} />}
          <CodeLink to={`/orders/${o.id}`}>{o.no}</CodeLink>
          <span className={textCss.cut}>{o.buyer}</span>
          <span className={textCss.quiet}>
            {o.stops} {o.stops === 1 ? 'stop' : 'stops'}, {o.units} {o.units === 1 ? 'piece' : 'pieces'}
            {o.totes > 1 ? `, ${o.totes} totes` : ''}
            {o.cutOff ? `, leaves ${clock(o.cutOff)}` : ''}
            {o.late === 'no' ? '' : o.late === 'already' ? ', ✕ too late already' : ', ✕ late'}
          </span>
          {!fixed && (
            <Choice
              bare
              label={`Move ${o.no} to`}
              value=""
              options={[
                ['', 'Move to …'],
                ...others.map(l => [l.id, `List ${l.seq}`] as const),
                [NEW, 'a new list'],
              ]}
              onChoose={to => to !== '' && move(o.id, to === NEW ? null : to)}
            />
          )}
        </li>
      ))}
    </ul>
  );
}

function Handle({ id, no }: { id: string; no: string }) {
  const { attributes, listeners, setNodeRef, transform } = useDraggable({ id });
  return (
    <IconButton
      ref={setNodeRef}
      size="small"
      aria-label={`Drag ${no} to another list`}
      {...attributes}
      {...listeners}
      style={
        transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 2 } : undefined
      }
    >
      <DragIndicator fontSize="small" />
    </IconButton>
  );
}

/** Where an order is dropped that is to have a list of its own. */
function NewList() {
  const { setNodeRef, isOver, active } = useDroppable({ id: NEW });
  return (
    <div ref={setNodeRef} className={isOver ? css.over : css.target}>
      {active && <p className={textCss.quiet}>Drop it here for a new list.</p>}
    </div>
  );
}
