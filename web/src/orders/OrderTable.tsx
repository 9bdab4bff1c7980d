import type { OrderRow } from '@auk/contract';
import { useTable } from '@tanstack/react-table';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { ChosenColumns } from './ColumnsMenu.js';
import { COLUMNS, FEATURES, RIGHT } from './columns.js';
import { InsideOrder } from './InsideOrder.js';
import { walkTo } from './walking.js';

interface Props {
  rows: OrderRow[];
  columns: ChosenColumns;
  chosen: ReadonlySet<string>;
  choose: (ids: ReadonlySet<string>) => void;
  star: (row: OrderRow) => void;
  more: (() => void) | null;
}

const ROW_HEIGHT = 54;

/** The rows of the list: only those in sight are drawn. Arrow keys walk, Enter looks inside, Space chooses, F4 opens the whole order, F8 stars it. */
export function OrderTable({ rows, columns, chosen, choose, star, more }: Props) {
  const [cursor, setCursor] = useState(0);
  const [open, setOpen] = useState<string | null>(null);
  const place = useRef<HTMLTableElement>(null);
  const navigate = useNavigate();
  const visibility = useMemo(
    () => Object.fromEntries(columns.hidden.map(id => [id, false])),
    [columns.hidden],
  );
  const table = useTable({
    features: FEATURES,
    columns: COLUMNS,
    data: rows,
    state: { columnOrder: columns.order, columnVisibility: visibility },
    getRowId: r => r.id,
  });
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: place.current?.offsetTop ?? 0,
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (more && last >= rows.length - 15) more();
  }, [more, last, rows.length]);
  useEffect(() => setCursor(c => Math.min(c, Math.max(0, rows.length - 1))), [rows.length]);

  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    choose(next);
  };
  const keys = (e: KeyboardEvent) => {
    if ((e.target as HTMLElement).closest('input, select, textarea')) return;
    const row = rows[cursor];
    const page = Math.max(1, Math.floor(window.innerHeight / ROW_HEIGHT) - 4);
    const to = walkTo(e.key, cursor, rows.length, page);
    const here = e.target === place.current;
    if (to !== null) {
      setCursor(to);
      virtual.scrollToIndex(to, { align: 'auto' });
    } else if (!row) return;
    else if (e.key === 'Enter' && here) setOpen(o => (o === row.id ? null : row.id));
    else if (e.key === ' ' && here) toggle(row.id);
    else if (e.key === 'F4') void navigate(`/orders/${row.id}`);
    else if (e.key === 'F8') star(row);
    else return;
    e.preventDefault();
  };

  const shown = table.getAllLeafColumns().filter(c => c.getIsVisible());
  const top = items[0] ? items[0].start - virtual.options.scrollMargin : 0;
  const bottom = virtual.getTotalSize() - ((items.at(-1)?.end ?? 0) - virtual.options.scrollMargin);
  const tableRows = table.getRowModel().rows;
  return (
    <table
      ref={place}
      className="list orders"
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: its rows are walked by arrow keys, which a grid means
      role="grid"
      tabIndex={0}
      onKeyDown={keys}
      aria-label="Orders"
      aria-rowcount={rows.length}
    >
      <thead>
        <tr>
          <th>
            <input
              type="checkbox"
              aria-label="Choose all that are shown"
              checked={rows.length > 0 && rows.every(r => chosen.has(r.id))}
              onChange={e => choose(new Set(e.target.checked ? rows.map(r => r.id) : []))}
            />
          </th>
          <th>
            <span className="visually-hidden">Starred</span>
          </th>
          {shown.map(c => (
            <th key={c.id} className={RIGHT.has(c.id) ? 'num' : ''}>
              {c.columnDef.header as string}
            </th>
          ))}
        </tr>
      </thead>
      <tbody aria-hidden="true" style={{ height: top }} />
      {items.map(item => {
        const row = tableRows[item.index];
        if (!row) return null;
        const r = row.original;
        const isOpen = open === r.id;
        return (
          <tbody key={r.id} data-index={item.index} ref={virtual.measureElement}>
            <tr
              className={[
                isOpen || chosen.has(r.id) ? 'chosen' : '',
                item.index === cursor ? 'cursor' : '',
              ].join(' ')}
              aria-rowindex={item.index + 1}
              onClick={e => {
                if ((e.target as HTMLElement).closest('a, button, input')) return;
                setCursor(item.index);
                setOpen(isOpen ? null : r.id);
              }}
            >
              <td>
                <input
                  type="checkbox"
                  aria-label={`Choose ${r.channelNumber}`}
                  checked={chosen.has(r.id)}
                  onChange={() => toggle(r.id)}
                />
              </td>
              <td>
                <button
                  type="button"
                  className="star"
                  aria-label={r.starred ? `Unstar ${r.channelNumber}` : `Star ${r.channelNumber}`}
                  onClick={() => star(r)}
                >
                  {r.starred ? '★' : '☆'}
                </button>
              </td>
              {row.getVisibleCells().map(cell => (
                <td key={cell.id} className={RIGHT.has(cell.column.id) ? 'num' : `c-${cell.column.id}`}>
                  <table.FlexRender cell={cell} />
                </td>
              ))}
            </tr>
            {isOpen && (
              <tr className="chosen">
                <td colSpan={shown.length + 2} style={{ padding: 0 }}>
                  <InsideOrder id={r.id} />
                </td>
              </tr>
            )}
          </tbody>
        );
      })}
      <tbody aria-hidden="true" style={{ height: Math.max(0, bottom) }} />
    </table>
  );
}
