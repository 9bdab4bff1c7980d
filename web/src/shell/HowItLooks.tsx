import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';
import { Choice } from '../parts/Choice.js';
import { Tick } from '../parts/Tick.js';
import { type Look, looks, useLook } from '../theme/look.js';
import { TEXT_SIZES } from '../theme/tokens.js';

const UNITS: [Look['units'], string][] = [
  ['imperial', 'pounds, ounces and inches'],
  ['metric', 'kilograms and centimetres'],
];

/** How Auk looks to this person on this device; every change is seen at once. */
export function HowItLooks({ leave }: { leave: () => void }) {
  const look = useLook();
  return (
    <Dialog open onClose={leave} fullWidth maxWidth="xs">
      <DialogTitle>How it looks, for you, on this device</DialogTitle>
      <DialogContent>
        <Stack spacing={1.5}>
          <Choice
            label="Size of all text"
            value={String(look.text)}
            options={TEXT_SIZES.map(t => [String(t), `${t} %`] as const)}
            onChoose={t => looks.change({ text: TEXT_SIZES.find(s => String(s) === t) ?? 100 })}
          />
          <Choice
            label="Weights and sizes"
            value={look.units}
            options={UNITS}
            onChoose={units => looks.change({ units })}
          />
          <Tick
            label="High contrast"
            checked={look.contrast}
            onTick={contrast => looks.change({ contrast })}
          />
          <Tick label="Nothing moves" checked={look.still} onTick={still => looks.change({ still })} />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={leave}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
