import { AdapterLuxon } from '@mui/x-date-pickers/AdapterLuxon';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';

interface Props {
  label: string;
  /** An ISO day such as 2026-11-25, or none. */
  value: string | null;
  onChange: (day: string | null) => void;
  readOnly?: boolean;
  bare?: boolean;
}

const SHOWN = 'ccc d LLL yyyy';

/** A day of the warehouse, typed or picked from the month; told when it is whole and the field is left, or a day is picked. */
export function DayField({ label, value, onChange, readOnly, bare }: Props) {
  const [shown, setShown] = useState(() => dayOf(value));
  useEffect(() => setShown(dayOf(value)), [value]);
  const tell = (d: DateTime | null) => {
    if (d !== null && !d.isValid) return;
    const iso = d?.toISODate() ?? null;
    if (iso !== value) onChange(iso);
  };
  return (
    <LocalizationProvider dateAdapter={AdapterLuxon} adapterLocale="en" localeText={EMPTY}>
      <DatePicker
        {...(!bare && { label })}
        format={SHOWN}
        value={shown}
        readOnly={readOnly}
        onChange={setShown}
        onAccept={tell}
        slotProps={{
          textField: {
            size: 'small',
            fullWidth: true,
            sx: DRESS,
            onBlur: () => tell(shown),
            ...(bare && { 'aria-label': label }),
          },
        }}
      />
    </LocalizationProvider>
  );
}

/** What stands where a day is still to be typed. */
const EMPTY = {
  fieldWeekDayPlaceholder: () => '—',
  fieldDayPlaceholder: () => 'day',
  fieldMonthPlaceholder: () => 'month',
  fieldYearPlaceholder: () => 'year',
};

/** As the other fields are. */
const DRESS = {
  '& .MuiPickersOutlinedInput-root': {
    padding: '0 0 0 0.5rem',
    background: 'var(--panel)',
    fontSize: 'var(--text-body)',
  },
  '& .MuiIconButton-edgeEnd': { marginRight: '0.125rem' },
  '& .MuiInputAdornment-root': { margin: 0, '& svg': { fontSize: '1.125rem', color: 'var(--quiet)' } },
  '& .MuiPickersSectionList-root': { padding: '0.3125rem 0', lineHeight: 1.35, minWidth: 0 },
  '& .MuiPickersOutlinedInput-notchedOutline': {
    top: 0,
    borderColor: 'var(--edge)',
    '& legend': { display: 'none' },
  },
};

const dayOf = (iso: string | null): DateTime | null => (iso ? DateTime.fromISO(iso) : null);
