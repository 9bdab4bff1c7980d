import type { ScanIn } from '@auk/contract';
import Button from '@mui/material/Button';
import css from '../../scans/bench.module.css';
import type { BenchKey } from '../benchKeys.js';
import ownCss from '../packing.module.css';

interface Props {
  /** Null when the order is closed. */
  keys: readonly BenchKey[] | null;
  take: (text: string, by?: ScanIn['by']) => void;
  leave: () => void;
  /** Whether a closed parcel may be taken open again. */
  reopens: boolean;
  /** Whether a bought label may be given back. */
  voids: boolean;
}

/** What can be done without a scanner too, each with its key. */
export function Keys({ keys, take, leave, reopens, voids }: Props) {
  return (
    <div className={css.keys}>
      {keys === null ? (
        <>
          {reopens && (
            <Button color="inherit" onClick={() => take('AUK-REOPEN')}>
              open it again
            </Button>
          )}{' '}
          {voids && (
            <Button color="inherit" onClick={() => take('AUK-VOID')}>
              void the label
            </Button>
          )}{' '}
          <Button color="inherit" onClick={leave}>
            next order
          </Button>
        </>
      ) : (
        keys.map(({ key, name, scans, by }) => (
          <span key={name} className={ownCss.key}>
            <kbd>{key}</kbd>
            <Button
              color="inherit"
              title={key.length > 1 ? key : `Alt ${key}`}
              onClick={() => take(scans, by)}
            >
              {name}
            </Button>
          </span>
        ))
      )}
      <small>
        {keys === null ? 'or scan the next slip' : 'Alt and the number, or the code of the scan sheet'}
      </small>
    </div>
  );
}
