import { type CarrierView, can } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { carriersQuery } from '../api.js';
import { Carrier } from '../parts/Carrier.js';
import { ClosedDays } from '../parts/ClosedDays.js';
import { Connect } from '../parts/Connect.js';
import { Rates } from '../parts/Rates.js';

/** The carriers: how each is reached, who pays and what it costs, which services are offered, and when each collects. */
export default function CarriersPage() {
  const carriers = useQuery(carriersQuery);
  const may = can(useMe(), 'carriers.change');
  const [editing, setEditing] = useState<CarrierView | 'new' | null>(null);
  return (
    <>
      <SetupNav />
      <Head
        title="Carriers"
        about="Who takes parcels away. Prices are asked of the carrier, or come from a rate sheet of your own; both stand side by side when services are compared."
      >
        {may && (
          <Button variant="outlined" color="secondary" onClick={() => setEditing('new')}>
            Connect a carrier
          </Button>
        )}
      </Head>
      <ProblemNote error={carriers.error} />
      <div className={pageCss.withside}>
        <div>
          {carriers.data?.map(c => (
            <Carrier key={c.code} carrier={c} may={may} edit={() => setEditing(c)} />
          ))}
        </div>
        <aside className={pageCss.side}>
          <Rates may={may} />
          <ClosedDays may={may} />
        </aside>
      </div>
      {editing && <Connect carrier={editing === 'new' ? null : editing} leave={() => setEditing(null)} />}
    </>
  );
}
