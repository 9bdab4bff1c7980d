import { KitPart, KitView, RecipeVersion } from '@auk/contract';
import { Link } from 'react-router';
import { moment } from '../../parts/format.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';

export function Recipe({ kit: k }: { kit: KitView }) {
  const columns: Column<KitPart>[] = [
    {
      id: 'n',
      head: 'In one',
      right: true,
      width: 7,
      cell: p => (
        <>
          <b>{p.quantity}</b> ×
        </>
      ),
    },
    {
      id: 'part',
      head: 'Part',
      width: 32,
      cell: p => (
        <Link className={textCss.name} to={`/products/${encodeURIComponent(p.sku)}`}>
          {p.name}
        </Link>
      ),
    },
    { id: 'sku', head: 'SKU', width: 14, cell: p => <span className={textCss.code}>{p.sku}</span> },
    { id: 'free', head: 'Free', right: true, width: 9, cell: p => k.frees[p.sku] ?? 0 },
    {
      id: 'limits',
      head: 'What limits',
      width: 22,
      cell: p =>
        k.limits.some(l => l.sku === p.sku) && (
          <span className={textCss.risk}>▲ limits how many can be made</span>
        ),
    },
  ];
  return (
    <DataTable
      name="recipe"
      label="Recipe"
      arrangeable={false}
      rows={k.versions[0]?.parts ?? []}
      idOf={p => p.sku}
      columns={columns}
    />
  );
}

export function Version({ version: v }: { version: RecipeVersion }) {
  return (
    <li>
      <b>Version {v.version}</b> · {moment(v.at)} · {v.person ?? 'Auk'}
      {v.note && <span> · “{v.note}”</span>}
      <div className={textCss.quiet}>
        {v.changes.length === 0
          ? v.parts.map(p => `${p.quantity} × ${p.name}`).join(', ')
          : v.changes
              .map(c =>
                c.before === 0
                  ? `${c.after} × ${c.sku} added`
                  : c.after === 0
                    ? `${c.before} × ${c.sku} taken out`
                    : `${c.sku}: ${c.before} → ${c.after}`,
              )
              .join(', ')}
      </div>
    </li>
  );
}
