import type { LatinIn } from '@auk/contract';
import { ADDRESS_FIELDS, LETTERED } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { Waiting } from '../../parts/Waiting.js';
import { giveLatin, latinQuery } from '../api.js';
import { useCure } from '../useCure.js';

const WORDS = new Map(ADDRESS_FIELDS);

/** The address in Latin letters, for carriers that take no others: proposed as it sounds, and kept when somebody has looked at it. */
export function LatinAddress({ orderId }: { orderId: string }) {
  const found = useQuery(latinQuery(orderId));
  if (!found.data) return <Waiting error={found.error} />;
  const { given, proposal } = found.data;
  const { name, company, line1, line2, city, region } = given ?? proposal;
  return <Fields orderId={orderId} first={{ name, company, line1, line2, city, region }} />;
}

function Fields({ orderId, first }: { orderId: string; first: LatinIn }) {
  const [typed, setTyped] = useState(first);
  const save = useCure(() => giveLatin(orderId, typed));
  return (
    <Form className={pageCss.fields} label="In Latin letters" onSend={() => save.mutate(undefined)}>
      {LETTERED.filter(f => first[f] !== '').map(f => (
        <Line
          key={f}
          width={14}
          label={`${WORDS.get(f)} in Latin letters`}
          value={typed[f]}
          onType={text => setTyped({ ...typed, [f]: text })}
        />
      ))}
      <Button type="submit" variant="outlined" color="secondary" size="small" disabled={save.isPending}>
        Use it so
      </Button>
      <ProblemNote error={save.error} />
    </Form>
  );
}
