import { can, type FloorView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { StockNav } from '../../stock/parts/StockNav.js';
import { floorQuery, saveFloor } from '../api.js';
import { draftOf, type FloorDraft, floorOf, wrongOf } from '../draft.js';
import { FloorMap } from '../parts/FloorMap.js';
import { Ends, Ways } from '../parts/Ways.js';

/** The floor of the house: its aisles in a table, and drawn beside it as it is typed. */
export default function MapPage() {
  const floor = useQuery(floorQuery);
  return (
    <>
      <StockNav />
      {floor.data ? <Floor floor={floor.data} /> : <Waiting error={floor.error} />}
    </>
  );
}

function Floor({ floor }: { floor: FloorView }) {
  const [draft, setDraft] = useState<FloorDraft>(() => draftOf(floor));
  const client = useQueryClient();
  const may = can(useMe(), 'places.change');
  const wrong = wrongOf(draft);
  const save = useMutation({
    mutationFn: () => saveFloor(floorOf(draft)),
    onSuccess: saved => {
      client.setQueryData(floorQuery.queryKey, saved);
      say('The floor is saved.');
    },
  });
  return (
    <>
      <Head
        title="Floor map"
        about="Aisles run from the front to the back, cross aisles join them. Lengths are in metres, or say ft. Walks are planned on it."
      >
        {may && (
          <>
            <Button component={Link} to="/bring-in?kind=layout" variant="outlined" color="secondary">
              Bring in
            </Button>
            <Button
              variant="contained"
              disabled={wrong.length > 0 || save.isPending}
              onClick={() => save.mutate()}
            >
              Save the floor
            </Button>
          </>
        )}
      </Head>
      <ProblemNote error={save.error} />
      <div className={pageCss.withside}>
        <div>
          <Ways draft={draft} set={setDraft} may={may} />
          <Ends draft={draft} set={setDraft} may={may} />
        </div>
        <aside className={pageCss.side}>
          <h2>The floor from above</h2>
          <FloorMap floor={{ ...floor, ...floorOf(draft) }} walks={[]} />
          {wrong.map(w => (
            <p key={w} className={textCss.stop} role="status">
              ✕ {w}
            </p>
          ))}
          <Standing floor={floor} />
        </aside>
      </div>
    </>
  );
}

/** How many places stand on the floor, and which do not. */
function Standing({ floor }: { floor: FloorView }) {
  const { places, unplaced, unplacedCodes, exact } = floor;
  return (
    <>
      <p>
        {exact
          ? '✓ As saved it is one block or two: walks are the shortest there are.'
          : '! As saved it is neither one block nor two: walks are improved step by step.'}
      </p>
      <p className={textCss.quiet}>
        {count(places - unplaced, 'place')} of {places} stand on it.
        {unplaced > 0 &&
          ` ${count(unplaced, 'place')} stand nowhere and are walked last: ${unplacedCodes.join(', ')}${unplaced > unplacedCodes.length ? ' and more' : ''}.`}
      </p>
    </>
  );
}
