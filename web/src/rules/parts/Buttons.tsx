import type { RuleButtonView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { buttonsQuery } from '../../parts/api.js';

interface Props {
  place: RuleButtonView['places'][number];
  onPress: (code: string) => void;
  disabled?: boolean;
  size?: 'small' | 'medium';
}

/** The buttons of the rule book at one place; each does what its code does. */
export default function Buttons({ place, onPress, disabled = false, size = 'small' }: Props) {
  const buttons = useQuery(buttonsQuery);
  return buttons.data
    ?.filter(b => b.places.includes(place))
    .map(b => (
      <Button
        key={b.code}
        size={size}
        variant="outlined"
        color="secondary"
        disabled={disabled || b.refused !== null}
        title={b.refused ?? `${b.says} (${b.code})`}
        onClick={() => onPress(b.code)}
      >
        {b.words}
      </Button>
    ));
}
