import { FLOOR_SHOWS, type FloorChoices } from '@auk/contract';
import Stack from '@mui/material/Stack';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Choice, type Options } from '../../parts/Choice.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { Tick } from '../../parts/Tick.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { floorChoicesQuery, setFloorChoices } from '../api.js';

const SHOWS: Record<(typeof FLOOR_SHOWS)[number], string> = {
  picture: 'its picture',
  codes: 'all its codes',
  size: 'its size',
  lot: 'lot and expiry',
  'buyer note': 'what the buyer wrote',
  'staff note': 'what the staff wrote',
};
const SORTINGS: Options<FloorChoices['sorting']> = [
  ['walk', 'the shortest walk'],
  ['place', 'the codes of the places'],
  ['SKU', 'the SKUs'],
  ['name', 'the names of the products'],
];
const AFTER_ORDER: Options<FloorChoices['afterOrder']> = [
  ['go on', 'the walk goes on'],
  ['choose', 'the picker chooses the next place'],
  ['stop', 'the picker says that it goes on'],
];
const AFTER_LIST: Options<FloorChoices['afterList']> = [
  ['go on', 'the next list is taken'],
  ['choose', 'the picker chooses a list'],
  ['stop', 'nothing follows'],
];

/** What pickers see and what follows, as the lead has it. */
export default function FloorChoicesPage() {
  const choices = useQuery(floorChoicesQuery);
  return (
    <>
      <SetupNav />
      <Head
        title="Floor"
        about="What pickers see, what they confirm, and what follows. It counts for walks that begin from now on."
      />
      <ProblemNote error={choices.error} />
      {choices.data && <ChoicesForm choices={choices.data} />}
    </>
  );
}

function ChoicesForm({ choices }: { choices: FloorChoices }) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: setFloorChoices,
    // What was ticked is seen at once, and goes back when it could not be kept.
    onMutate: chosen => client.setQueryData(floorChoicesQuery.queryKey, chosen),
    onSuccess: () => say('So it is for walks that begin from now on.'),
    onSettled: () => client.invalidateQueries(floorChoicesQuery),
  });
  const set = (change: Partial<FloorChoices>) => save.mutate({ ...choices, ...change });
  return (
    <Stack spacing={3} sx={{ maxWidth: 640, mt: 2 }}>
      <ProblemNote error={save.error} />
      <section>
        <h2>Beside place, name and count a picker sees of each stop</h2>
        {FLOOR_SHOWS.map(show => (
          <div key={show}>
            <Tick
              label={SHOWS[show]}
              checked={choices.show.includes(show)}
              onTick={on =>
                set({ show: on ? [...choices.show, show] : choices.show.filter(s => s !== show) })
              }
            />
          </div>
        ))}
        <Tick
          label="in the overview only what is still to be taken"
          checked={choices.doneAside}
          onTick={doneAside => set({ doneAside })}
        />
      </section>
      <section>
        <h2>Totes</h2>
        <div>
          <Tick
            label="any free totes are scanned onto a list before it is picked"
            checked={choices.bringTotes}
            onTick={bringTotes => set({ bringTotes })}
          />
        </div>
        <Tick
          label="the tote is scanned after each stop, where more than one is out"
          checked={choices.confirmTote}
          onTick={confirmTote => set({ confirmTote })}
        />
      </section>
      <section>
        <h2>Order and what follows</h2>
        <Stack spacing={2} sx={{ mt: 1 }}>
          <Choice
            label="Stops follow"
            value={choices.sorting}
            options={SORTINGS}
            onChoose={sorting => set({ sorting })}
          />
          <Choice
            label="When an order is whole"
            value={choices.afterOrder}
            options={AFTER_ORDER}
            onChoose={afterOrder => set({ afterOrder })}
          />
          <Choice
            label="When a list is complete"
            value={choices.afterList}
            options={AFTER_LIST}
            onChoose={afterList => set({ afterList })}
          />
        </Stack>
      </section>
    </Stack>
  );
}
