import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';

interface Props {
  label: string;
  checked: boolean;
  onTick: (checked: boolean) => void;
  disabled?: boolean;
  /** The label is read aloud and not shown, as in a row of a table. */
  bare?: boolean;
}

/** Yes or no. */
export function Tick({ label, checked, onTick, disabled, bare }: Props) {
  const box = (
    <Checkbox
      size="small"
      checked={checked}
      disabled={disabled}
      onChange={e => onTick(e.target.checked)}
      icon={<Box />}
      checkedIcon={<Box ticked />}
      slotProps={{ input: bare ? { 'aria-label': label } : {} }}
    />
  );
  return bare ? box : <FormControlLabel control={box} label={label} />;
}

/** Auk's own box and tick, drawn as the scan marks are. */
function Box({ ticked }: { ticked?: boolean }) {
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true">
      <rect
        x="1.5"
        y="1.5"
        width="15"
        height="15"
        rx="4"
        fill={ticked ? 'var(--ink)' : 'var(--panel)'}
        stroke={ticked ? 'var(--ink)' : 'var(--edge)'}
        strokeWidth="1.5"
      />
      {ticked && <path d="M4.500 9.500l3 3 6-7" fill="none" stroke="var(--ground)" strokeWidth="2" />}
    </svg>
  );
}
