import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { missingQuery } from '../api.js';
import { PartsText } from './PartsText.js';

/** What is missing to have so many. */
export function Missing({ sku }: { sku: string }) {
  const [wanted, setWanted] = useState('');
  const n = Number(wanted);
  const answer = useQuery(missingQuery(sku, n));
  return (
    <div className={pageCss.side}>
      <h2>What is missing for more?</h2>
      <Line label="To have this many in all" digits most={6} width={11} value={wanted} onType={setWanted} />
      <ProblemNote error={answer.error} />
      {n > 0 && answer.data?.quantity === n && (
        <p className={answer.data.missing.length === 0 ? textCss.good : textCss.risk} role="status">
          {answer.data.missing.length === 0 ? (
            '✓ Nothing: they can be had now.'
          ) : (
            <PartsText parts={answer.data.missing} />
          )}
        </p>
      )}
    </div>
  );
}
