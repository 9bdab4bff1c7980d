import type { RuleButtonView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { buttonsQuery } from '../api.js';

interface Props {
  place: RuleButtonView['places'][number];
  onPress: (code: string) => void;
  disabled?: boolean;
}

/** The buttons of the rule book at one place; each does what its code does. */
export default function Buttons({ place, onPress, disabled = false }: Props) {
  const buttons = useQuery(buttonsQuery);
  return buttons.data
    ?.filter(b => b.places.includes(place))
    .map(b => (
      <Button
        key={b.code}
        size="small"
        variant="outlined"
        disabled={disabled || b.refused !== null}
        title={b.refused ?? `${b.says} (${b.code})`}
        onClick={() => onPress(b.code)}
      >
        {b.words}
      </Button>
    ));
}
