import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import {
  columnOrderingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  createColumnHelper,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import {
  type KeyboardEvent,
  memo,
  type ReactNode,
  type RefObject,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useNavigate } from 'react-router';
import pageCss from '../page.module.css';
import { Tick } from '../Tick.js';
import textCss from '../text.module.css';
import { usePreference } from '../usePreference.js';
import { ColumnsMenu } from './ColumnsMenu.js';
import { type Arrangement, arranged, borderMoved, type Column, shownColumns } from './column.js';
import css from './table.module.css';
import { useArrowsFromPage } from './useArrowsFromPage.js';
import { ROW_HEIGHT, useSight } from './useSight.js';
import { walkTo } from './walking.js';

export type { Column } from './column.js';

/** Rows that a person has chosen for one act on many. */
export interface Chosen<R> {
  ids: ReadonlySet<string>;
  set: (ids: ReadonlySet<string>) => void;
  /** How a row is called where it is chosen. */
  nameOf: (row: R) => string;
}

interface Props<R> {
  /** Under this name the person's arrangement of the columns is kept. */
  name: string;
  label: string;
  rows: readonly R[];
  idOf: (row: R) => string;
  columns: readonly Column<R>[];
  /** Asks for the rows that come next; null when there are no more, or they are asked for already. */
  more?: (() => void) | null;
  chosen?: Chosen<R> | null;
  /** What a row shows when it is opened in place. */
  inside?: (row: R) => ReactNode;
  /** The row that is open to begin with. */
  opened?: string | null;
  /** Where a row leads: Enter goes there where nothing opens in place, F4 always. */
  to?: (row: R) => string;
  /** Told which row the cursor is on, where it moves: what stands beside the list follows it. */
  onCursor?: (row: R) => void;
  /** Other keys on the row of the cursor; true when the key meant something. */
  onKey?: (key: string, row: R) => boolean;
  /** What asks for these rows and no others: fields that stand before the list. */
  filters?: ReactNode;
  /** Stands before the choice of columns. */
  tools?: ReactNode;
  /** What stands there when there is no row. */
  empty?: ReactNode;
  /** False for short lists whose columns nobody arranges. */
  arrangeable?: boolean;
}

/** The next rows are asked for so many rows before the last. */
const AHEAD = 15;

const FEATURES = tableFeatures({ columnOrderingFeature, columnSizingFeature, columnVisibilityFeature });

/** Rows are drawn from the list itself, as far as they are in sight: react-table arranges the columns alone. */
const NO_ROWS: object[] = [];

/** Which rows are in sight, which is open, where the cursor is, and what a row does when it is pressed or chosen. */
function useRows<R>(props: Props<R>) {
  const { name, rows, idOf, more, chosen, inside } = props;
  const place = useRef<HTMLTableElement>(null);
  const [open, setOpen] = useState<string | null>(props.opened ?? null);
  const { items, top, bottom, measure, toRow } = useSight(name, rows.length, place);
  const walk = useWalk({ ...props, open, setOpen, toRow });
  useArrowsFromPage(place);
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (more && last >= rows.length - AHEAD) more();
  }, [more, last, rows.length]);
  const ids = chosen?.ids;
  const allChosen = useMemo(() => ids !== undefined && rows.every(r => ids.has(idOf(r))), [rows, ids, idOf]);
  // What a row does when it is pressed: the newest, without drawing the row again for it.
  const acts = useRef<RowActs>({ press: () => {}, choose: () => {} });
  acts.current = {
    press: (index, id) => {
      walk.setCursor(index);
      props.onCursor?.(rows[index]!);
      if (inside) setOpen(open === id ? null : id);
    },
    choose: id => chosen?.set(toggled(chosen.ids, id)),
  };
  return { place, open, items, top, bottom, measure, walk, allChosen, acts };
}

/**
 * The one list of the house. Of long lists only the rows in sight are drawn, and a row that stays in sight is not drawn again, so
 * that a hundred thousand rows cost no more than thirty. Arrow keys walk, Enter looks inside or goes there, Space chooses.
 */
export function DataTable<R>(props: Props<R>) {
  const { name, label, rows, idOf, columns, more, chosen, inside, filters, tools, empty } = props;
  const { arrangeable = true } = props;
  const [kept, keep] = usePreference<Partial<Arrangement> | null>(`${name}-columns`, null);
  const arrangement = useMemo(() => arranged(kept, columns), [kept, columns]);
  const { shown, widthOf } = useColumns(columns, arrangement);
  const { place, open, items, top, bottom, measure, walk, allChosen, acts } = useRows(props);
  const own = useId();
  const menu = arrangeable && rows.length > 0 && (
    <ColumnsMenu columns={columns} arrangement={arrangement} onChange={keep} />
  );
  return (
    <>
      {(filters || tools || menu) && (
        <div className={pageCss.tools}>
          {filters}
          <span className={css.grow} />
          {tools}
          {menu}
        </div>
      )}
      {rows.length === 0 ? (
        empty && <div className={textCss.empty}>{empty}</div>
      ) : (
        <Table
          ref={place}
          className={css.table}
          role={inside ? 'treegrid' : 'grid'}
          tabIndex={0}
          aria-label={label}
          aria-rowcount={more === null || more === undefined ? rows.length + 1 : -1}
          aria-activedescendant={`${own}-${walk.cursor}`}
          onKeyDown={walk.keys}
        >
          <colgroup>
            {chosen && <col className={css.tickColumn} />}
            {shown.map(c => (
              <col key={c.id} style={{ width: widthOf(c) }} />
            ))}
          </colgroup>
          <Heads
            shown={shown}
            all={chosen && { are: allChosen, set: on => chosen.set(new Set(on ? rows.map(idOf) : [])) }}
            move={arrangeable ? (id, by) => keep(borderMoved(shown, arrangement, id, by)) : null}
            widthOf={() => place.current!.clientWidth}
          />
          {top > 0 && <tbody aria-hidden="true" style={{ height: top }} />}
          {items.map(({ index }) => {
            const row = rows[index];
            if (!row) return null;
            const id = idOf(row);
            const isOpen = open === id;
            return (
              <Row
                key={id}
                row={row}
                id={id}
                domId={`${own}-${index}`}
                index={index}
                shown={shown as Column<unknown>[]}
                isOpen={inside ? isOpen : null}
                isCursor={index === walk.cursor}
                isChosen={chosen ? chosen.ids.has(id) : null}
                tick={chosen ? `Choose ${chosen.nameOf(row)}` : ''}
                acts={acts}
                measure={measure}
              >
                {isOpen && inside?.(row)}
              </Row>
            );
          })}
          {bottom > 0 && <tbody aria-hidden="true" style={{ height: bottom }} />}
        </Table>
      )}
    </>
  );
}

interface HeadsProps<R> {
  shown: readonly Column<R>[];
  /** Whether all rows are chosen, where rows are chosen. */
  all: { are: boolean; set: (on: boolean) => void } | null | undefined;
  /** Moves the border after a column, where columns are arranged by hand. */
  move: ((column: string, by: number) => void) | null;
  widthOf: () => number;
}

/** The names of the columns; they stay in sight. */
function Heads<R>({ shown, all, move, widthOf }: HeadsProps<R>) {
  return (
    <TableHead>
      <TableRow aria-rowindex={1}>
        {all && (
          <TableCell className={css.sticky}>
            <Tick bare label="Choose all that are shown" checked={all.are} onTick={all.set} />
          </TableCell>
        )}
        {shown.map((c, i) => (
          <TableCell key={c.id} className={css.sticky} align={c.right ? 'right' : 'left'}>
            <span className={c.fixed ? textCss.hidden : ''}>{c.head}</span>
            {move && i < shown.length - 1 && !c.fixed && (
              <Border onMove={by => move(c.id, by)} widthOf={widthOf} />
            )}
          </TableCell>
        ))}
      </TableRow>
    </TableHead>
  );
}

/** The columns that are shown, in their order, and how wide each is: react-table's, by the person's arrangement. */
function useColumns<R>(columns: readonly Column<R>[], arrangement: Arrangement) {
  const helper = useMemo(() => createColumnHelper<typeof FEATURES, object>(), []);
  const defined = useMemo(
    // Widths are parts of the whole, not pixels, and may be small.
    () => columns.map(c => helper.display({ id: c.id, header: c.head, minSize: 0 })),
    [columns, helper],
  );
  const order = useMemo(() => shownColumns(columns, arrangement), [columns, arrangement]);
  const table = useTable({
    features: FEATURES,
    columns: defined,
    data: NO_ROWS,
    state: {
      columnOrder: order.map(c => c.id),
      columnVisibility: Object.fromEntries(columns.map(c => [c.id, order.includes(c)])),
      columnSizing: arrangement.widths,
    },
  });
  const leaves = table.getVisibleLeafColumns();
  const ids = leaves.map(l => l.id).join();
  const shown = useMemo(() => ids.split(',').map(id => columns.find(c => c.id === id)!), [ids, columns]);
  const all = leaves.reduce((sum, l) => sum + l.getSize(), 0);
  const sizes = new Map(leaves.map(l => [l.id, `${(100 * l.getSize()) / all}%`]));
  return { shown, widthOf: (c: Column<R>) => sizes.get(c.id)! };
}

interface RowActs {
  press: (index: number, id: string) => void;
  choose: (id: string) => void;
}

interface RowProps {
  row: unknown;
  id: string;
  domId: string;
  index: number;
  shown: Column<unknown>[];
  /** Null where rows do not open. */
  isOpen: boolean | null;
  isCursor: boolean;
  /** Null where rows are not chosen; `tick` names the choice. */
  isChosen: boolean | null;
  tick: string;
  acts: RefObject<RowActs>;
  measure: (element: HTMLElement | null) => void;
  /** What it shows when it is open. */
  children: ReactNode;
}

/** One row, and what is inside it when it is open. Drawn again only when something of it changes. */
const Row = memo(function Row(p: RowProps) {
  const { row, id, index, shown, isOpen, isCursor, isChosen, acts } = p;
  const classes = [css.row];
  if (isOpen || isChosen) classes.push(css.chosen);
  if (isCursor) classes.push(css.cursor);
  if (isOpen !== null) classes.push(css.opens);
  return (
    <TableBody data-index={index} ref={p.measure}>
      <TableRow
        id={p.domId}
        aria-rowindex={index + 2}
        aria-selected={isChosen ?? undefined}
        aria-expanded={isOpen ?? undefined}
        className={classes.join(' ')}
        onClick={e => {
          if ((e.target as HTMLElement).closest('a, button, input, label, select')) return;
          acts.current.press(index, id);
        }}
      >
        {isChosen !== null && (
          <TableCell>
            <Tick bare label={p.tick} checked={isChosen} onTick={() => acts.current.choose(id)} />
          </TableCell>
        )}
        {shown.map(c => (
          <TableCell
            key={c.id}
            data-column={c.id}
            data-number={c.right || undefined}
            align={c.right ? 'right' : 'left'}
          >
            {c.cell(row)}
          </TableCell>
        ))}
      </TableRow>
      {isOpen && (
        <TableRow className={css.chosen}>
          <TableCell colSpan={shown.length + (isChosen === null ? 0 : 1)} padding="none">
            {p.children}
          </TableCell>
        </TableRow>
      )}
    </TableBody>
  );
});

function toggled(ids: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(ids);
  if (!next.delete(id)) next.add(id);
  return next;
}

interface WalkProps<R> extends Props<R> {
  open: string | null;
  setOpen: (id: string | null) => void;
  toRow: (index: number) => void;
}

/** The cursor of a list, moved by keys, and what keys do on its row. */
function useWalk<R>({ rows, idOf, chosen, inside, to, onCursor, onKey, open, setOpen, toRow }: WalkProps<R>) {
  const [cursor, setCursor] = useState(0);
  const navigate = useNavigate();
  useEffect(() => setCursor(c => Math.min(c, Math.max(0, rows.length - 1))), [rows.length]);
  const act = (key: string, row: R): boolean => {
    const id = idOf(row);
    if (key === 'Enter' && inside) setOpen(open === id ? null : id);
    else if (key === ' ' && chosen) chosen.set(toggled(chosen.ids, id));
    else if ((key === 'F4' || key === 'Enter') && to) void navigate(to(row));
    else return onKey?.(key, row) ?? false;
    return true;
  };
  const keys = (e: KeyboardEvent<HTMLElement>) => {
    const target = e.target as HTMLElement;
    if (target.closest('input, select, textarea') || e.altKey || e.ctrlKey || e.metaKey) return;
    const pageRows = Math.max(1, Math.floor(window.innerHeight / ROW_HEIGHT) - 4);
    const next = walkTo(e.key, cursor, rows.length, pageRows);
    const row = rows[cursor];
    // Enter and Space on a link or a button within a row are the link's and the button's.
    const ofRow = target === e.currentTarget || (e.key !== 'Enter' && e.key !== ' ');
    if (next !== null) {
      setCursor(next);
      onCursor?.(rows[next]!);
      toRow(next);
    } else if (!row || !ofRow || !act(e.key, row)) return;
    e.preventDefault();
  };
  return { cursor, setCursor, keys };
}

/** The border of a column, dragged by hand; by keyboard the choice of columns does it. */
function Border({ onMove, widthOf }: { onMove: (by: number) => void; widthOf: () => number }) {
  const from = useRef<number | null>(null);
  return (
    <span
      aria-hidden="true"
      className={css.border}
      onPointerDown={e => {
        from.current = e.clientX;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerUp={e => {
        if (from.current !== null) onMove((e.clientX - from.current) / widthOf());
        from.current = null;
      }}
    />
  );
}
