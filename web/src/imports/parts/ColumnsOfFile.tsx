import type { ImportReport } from '@auk/contract';
import { Choice } from '../../parts/Choice.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import css from '../imports.module.css';

interface Props {
  report: ImportReport;
  /** Says that a field is filled by a column, counted from 0; −1 by none. */
  change: (field: string, at: number) => void;
}

/** Which column of the file fills which field: a guess that a person corrects, and that is remembered for this source. */
export function ColumnsOfFile({ report, change }: Props) {
  const columns = [
    ['-1', '—'] as const,
    ...report.headings.map((h, i) => [String(i), h || `column ${i + 1}`] as const),
  ];
  return (
    <aside className={pageCss.side}>
      <h2>Columns</h2>
      <p className={textCss.quiet}>
        {report.remembered ? 'As the last file from here.' : 'Guessed by their headings.'} Correct what is
        wrong; it is remembered.
      </p>
      {report.fields.map(f => {
        const wanted = f.required && report.mapping[f.field] === undefined;
        return (
          <div key={f.field} className={wanted ? `${css.column} ${textCss.stop}` : css.column}>
            <span>
              {f.words}
              {f.required && ' *'}
            </span>
            <Choice
              bare
              fullWidth
              label={`Column for ${f.words}`}
              value={String(report.mapping[f.field] ?? -1)}
              options={columns}
              disabled={report.committed}
              onChoose={at => change(f.field, Number(at))}
            />
          </div>
        );
      })}
    </aside>
  );
}
