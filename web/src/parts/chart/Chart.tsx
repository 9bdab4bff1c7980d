import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useEffect, useRef } from 'react';
import { useLook } from '../../theme/look.js';
import { saveText } from '../save.js';
import textCss from '../text.module.css';
import css from './chart.module.css';
import { csvOf, figure, type Series } from './figure.js';

export type { Series } from './figure.js';

interface Props {
  /** What the chart is of; read aloud, and the name of the file of its values. */
  label: string;
  /** What stands along: an ISO day or words, each with a value in every series. */
  along: readonly string[];
  /** What `along` is called at the head of its column. */
  alongName: string;
  series: readonly Series[];
  /** Height in rem. */
  height?: number;
}

/** A chart: drawn, readable as a table, and to be taken along as CSV. The library comes when the first chart does. */
export function Chart({ label, along, alongName, series, height = 12 }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const { tokens } = useTheme();
  const look = useLook();
  useEffect(() => {
    const at = place.current!;
    let gone = false;
    void import('./plotly.js').then(plotly => {
      if (gone) return;
      const { data, layout } = figure(along, series, tokens, look.text / 100);
      void plotly.react(at, data, layout, { displayModeBar: false, responsive: true });
    });
    return () => {
      gone = true;
    };
  }, [along, series, tokens, look.text]);
  useEffect(() => {
    const at = place.current!;
    return () => void import('./plotly.js').then(plotly => plotly.purge(at));
  }, []);
  return (
    <figure className={css.chart} aria-label={label}>
      <div ref={place} aria-hidden="true" style={{ height: `${height}rem` }} />
      <div className={textCss.hidden}>
        <Table aria-label={label}>
          <TableHead>
            <TableRow>
              <TableCell>{alongName}</TableCell>
              {series.map(s => (
                <TableCell key={s.name}>{s.name}</TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {along.map((at, i) => (
              <TableRow key={at}>
                <TableCell component="th" scope="row">
                  {at}
                </TableCell>
                {series.map(s => (
                  <TableCell key={s.name}>{s.values[i] ?? ''}</TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </div>
      <figcaption className={css.caption}>
        {series.length > 1 &&
          series.map(s => (
            <span key={s.name}>
              <i className={s.dashed ? css.dashed : css.solid} style={{ borderColor: `var(--${s.tone})` }} />
              {s.name}
            </span>
          ))}
        <Button
          size="small"
          onClick={() => saveText(`${label}.csv`, 'text/csv', csvOf(along, alongName, series))}
        >
          Values as CSV
        </Button>
      </figcaption>
    </figure>
  );
}
