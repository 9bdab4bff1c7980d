import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Choice } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { type FloorDraft, further, type WayDraft } from '../draft.js';

interface Props {
  draft: FloorDraft;
  set: (draft: FloorDraft) => void;
  may: boolean;
}

/** Aisles and cross aisles as rows that can be typed over. */
export function Ways({ draft, set, may }: Props) {
  const change = (i: number, more: Partial<WayDraft>) =>
    set({ ...draft, ways: draft.ways.map((w, k) => (k === i ? { ...w, ...more } : w)) });
  const add = (cross: boolean) => set({ ...draft, ways: [...draft.ways, further(draft.ways, cross)] });
  return (
    <>
      <Table size="small" aria-label="Aisles and cross aisles" sx={{ '& td': { verticalAlign: 'middle' } }}>
        <TableHead>
          <TableRow>
            <TableCell>Code</TableCell>
            <TableCell>Kind</TableCell>
            <TableCell>Stands at</TableCell>
            <TableCell>From</TableCell>
            <TableCell>To</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {draft.ways.map((w, i) => (
            // Rows are known by their position: a code may be typed anew.
            <TableRow key={i}>
              <TableCell>
                <Line
                  bare
                  label={`Code of way ${i + 1}`}
                  capitals
                  width={6}
                  most={20}
                  disabled={!may}
                  value={w.code}
                  onType={code => change(i, { code })}
                />
              </TableCell>
              <TableCell>{w.cross ? '↔ cross aisle' : '↕ aisle'}</TableCell>
              {(['at', 'from', 'to'] as const).map(key => (
                <TableCell key={key}>
                  <Line
                    bare
                    label={`${FIELD[key]} of way ${i + 1}`}
                    width={6}
                    most={12}
                    disabled={!may}
                    value={w[key]}
                    onType={text => change(i, { [key]: text })}
                  />
                </TableCell>
              ))}
              <TableCell>
                {may && (
                  <Drop
                    label={`Take ${w.code || 'this way'} off`}
                    onDrop={() => set({ ...draft, ways: draft.ways.filter((_, k) => k !== i) })}
                  />
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {may && (
        <div className={pageCss.inline}>
          <Button size="small" onClick={() => add(false)}>
            Add an aisle
          </Button>
          <Button size="small" onClick={() => add(true)}>
            Add a cross aisle
          </Button>
        </div>
      )}
    </>
  );
}

const FIELD = { at: 'Position', from: 'Beginning', to: 'End' } as const;

/** Where walks begin and end. */
export function Ends({ draft, set, may }: Props) {
  const ways = draft.ways.filter(w => w.code.trim() !== '').map(w => [w.code, w.code] as const);
  return (
    <>
      {(['start', 'end'] as const).map(key => (
        <div key={key} className={pageCss.fields}>
          <Choice
            label={key === 'start' ? 'Walks begin on' : 'Walks end on'}
            value={draft[key].way}
            options={ways}
            disabled={!may}
            onChoose={way => set({ ...draft, [key]: { ...draft[key], way } })}
          />
          <Line
            label="So far along it"
            width={8}
            disabled={!may}
            value={draft[key].along}
            onType={along => set({ ...draft, [key]: { ...draft[key], along } })}
          />
        </div>
      ))}
    </>
  );
}
