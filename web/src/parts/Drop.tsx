import Close from '@mui/icons-material/Close';
import IconButton from '@mui/material/IconButton';

/** Takes one thing out of what stands beside it; the label says which. */
export function Drop({ label, onDrop }: { label: string; onDrop: () => void }) {
  return (
    <IconButton size="small" aria-label={label} title={label} onClick={onDrop}>
      <Close fontSize="inherit" />
    </IconButton>
  );
}
