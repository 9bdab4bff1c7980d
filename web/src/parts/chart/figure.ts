import { stringify } from 'csv-stringify/browser/esm/sync';
import type { Tokens } from '../../theme/tokens.js';

/** One line of a chart: a value at each place along, or none. */
export interface Series {
  name: string;
  values: readonly (number | null)[];
  tone: 'done' | 'ink' | 'info';
  dashed?: boolean;
  /** The value stays until the next one, as stock does. */
  steps?: boolean;
  filled?: boolean;
  /** Stands as a bar beside those of the other series. */
  bars?: boolean;
}

const DAY = /^\d{4}-\d\d-\d\d$/;

/** What Plotly is to draw, in the colours of the theme; `scale` is that of the person's text. */
export function figure(along: readonly string[], series: readonly Series[], t: Tokens, scale: number) {
  const font = {
    family: "'Atkinson Hyperlegible Next Variable', sans-serif",
    size: 12 * scale,
    color: t.quiet,
  };
  const days = along.every(a => DAY.test(a));
  const lineOf = (s: Series) => ({
    type: 'scatter' as const,
    mode: 'lines' as const,
    name: s.name,
    x: [...along],
    y: [...s.values],
    line: {
      color: t[s.tone],
      width: s.dashed ? 1.6 : 2.5,
      ...(s.dashed && { dash: 'dash' as const }),
      ...(s.steps && { shape: 'hv' as const }),
    },
    ...(s.filled && { fill: 'tozeroy' as const, fillcolor: t.infoGround }),
  });
  const bars = series.some(s => s.bars);
  return {
    data: series.map(s =>
      s.bars
        ? {
            type: 'bar' as const,
            name: s.name,
            x: [...along],
            y: [...s.values],
            marker: { color: t[s.tone] },
          }
        : lineOf(s),
    ),
    layout: {
      font,
      showlegend: false,
      hovermode: 'x unified' as const,
      hoverlabel: { bgcolor: t.panel, bordercolor: t.ink, font: { ...font, color: t.ink } },
      margin: { l: 36 * scale, r: 8, t: 8, b: 24 * scale },
      paper_bgcolor: 'transparent',
      plot_bgcolor: 'transparent',
      dragmode: false as const,
      ...(bars && { barmode: 'group' as const, bargap: 0.3 }),
      xaxis: {
        type: days ? ('date' as const) : ('category' as const),
        ...(days
          ? { tickformat: '%-d %b', hoverformat: '%a %-d %b' }
          : bars
            ? {}
            : { nticks: 7, range: [0, along.length - 1] as [number, number] }),
        showgrid: false,
        linecolor: t.edge,
        fixedrange: true,
      },
      yaxis: {
        rangemode: 'tozero' as const,
        gridcolor: t.line,
        zerolinecolor: t.edge,
        nticks: 4,
        fixedrange: true,
      },
    },
  };
}

/** The values of a chart, one row a place along. */
export function csvOf(along: readonly string[], alongName: string, series: readonly Series[]): string {
  const rows = along.map((at, i) => [at, ...series.map(s => String(s.values[i] ?? ''))]);
  return stringify([[alongName, ...series.map(s => s.name)], ...rows]);
}
