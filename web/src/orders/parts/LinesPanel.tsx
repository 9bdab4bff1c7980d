import { OrderView } from '@auk/contract';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import textCss from '../../parts/text.module.css';
import css from '../orders.module.css';
import type { Save } from '../useOrderEdit.js';
import { AllLines } from './AllLines.js';
import { LineRows, type SplitUnits } from './LineRows.js';

interface Props {
  order: OrderView;
  save: Save;
  can: boolean;
  split: SplitUnits;
}

/** The lines of an order with their parts, and what can be done to them. */
export function LinesPanel({ order, save, can, split }: Props) {
  return (
    <section>
      <Table aria-label="Lines" className={css.lines}>
        <TableHead>
          <TableRow>
            <TableCell align="right">{split.on ? 'Split off' : 'Units'}</TableCell>
            <TableCell>Product</TableCell>
            <TableCell>Where they stand</TableCell>
            <TableCell align="right">Each</TableCell>
            <TableCell align="right">Tax</TableCell>
            <TableCell align="right">Sum</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {order.lines.map(l => (
            <LineRows key={l.id} line={l} order={order} save={save} can={can} split={split} />
          ))}
          {order.lines.length === 0 && (
            <TableRow>
              <TableCell colSpan={7} className={textCss.empty}>
                No lines yet. Scan a product, or find it by SKU or name below.
              </TableCell>
            </TableRow>
          )}
        </TableBody>
      </Table>
      {can && !split.on && (
        <div className={css.lineacts}>
          <AddLine save={save} />
          {order.lines.length > 0 && <AllLines order={order} save={save} />}
        </div>
      )}
    </section>
  );
}

/** Adds a line: a product that is picked, or a SKU that is typed whole. */
function AddLine({ save }: { save: Save }) {
  return (
    <div className={css.addline}>
      <PickProduct
        bare
        emptied
        label="Add a line"
        placeholder="Add a line: SKU or name, then Enter"
        sku=""
        onPick={sku => sku !== '' && save({ lines: [{ sku, quantity: 1 }] })}
      />
    </div>
  );
}
