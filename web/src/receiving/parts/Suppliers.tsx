import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { wordsOf } from '../../api.js';
import { changed } from '../../asked.js';
import { Field } from '../../parts/Field.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { setSupplierMail, suppliersQuery } from '../api.js';

/** Suppliers, with where they read mail: what they are to send to a buyer is ordered there. */
export function Suppliers({ can }: { can: boolean }) {
  const client = useQueryClient();
  const suppliers = useQuery(suppliersQuery);
  const [problem, setProblem] = useState('');
  if (!suppliers.data?.length) return null;
  const save = async (id: string, mail: string) => {
    try {
      await setSupplierMail(id, mail);
      setProblem('');
      await changed(client, 'purchases');
    } catch (error) {
      const { says, cure } = wordsOf(error);
      setProblem(`${says} ${cure}`);
    }
  };
  return (
    <section className={pageCss.panel} aria-label="Suppliers">
      <h2>Where suppliers read mail</h2>
      {problem && <p className={textCss.stop}>▲ {problem}</p>}
      <dl className={pageCss.facts}>
        {suppliers.data.map(s => (
          <div key={s.id} style={{ display: 'contents' }}>
            <dt>{s.name}</dt>
            <dd>
              <Field
                label={`Mail of ${s.name}`}
                value={s.mail}
                readOnly={!can}
                onSave={mail => void save(s.id, mail.trim())}
              />
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
