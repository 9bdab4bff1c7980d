import { OpenHouse } from '@auk/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Controller, type FieldPath, useForm } from 'react-hook-form';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { meQuery } from '../../people/api.js';
import { houseQuery, openHouse } from '../../setup/api.js';
import css from '../opening.module.css';

type Input = OpenHouse;
const FIELDS: [name: FieldPath<Input>, label: string, hint?: string][][] = [
  [['code', 'Code from the start command', 'It stands in the lines that npm start -- --own printed.']],
  [
    ['admin.name', 'Your name'],
    ['admin.pin', 'Your PIN', 'Four to twelve digits. You sign in with it and your badge.'],
  ],
  [
    ['house.name', 'Name of the house'],
    ['house.line1', 'Street and number'],
    ['house.city', 'Town'],
    ['house.region', 'State or region'],
    ['house.postcode', 'Postcode'],
    ['house.country', 'Country', 'Two letters, such as US'],
    ['house.phone', 'Telephone'],
  ],
  [
    ['house.zone', 'Time zone', 'Days and cut-offs go by it, such as America/New_York'],
    ['house.currency', 'Currency', 'Three letters, such as USD'],
  ],
];
const HEADS = ['The code', 'The first admin', 'The house, as it stands on labels', 'How it counts'];

/** The first page of a house of one's own: its first admin, its name, address, zone and currency. */
export default function OpeningPage() {
  useTitle('Open this house');
  const client = useQueryClient();
  const [badge, setBadge] = useState<string | null>(null);
  const form = useForm<Input>({
    resolver: zodResolver(OpenHouse) as never,
    mode: 'onTouched',
    defaultValues: {
      code: '',
      admin: { name: '', pin: '' },
      house: {
        name: '',
        zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        currency: '',
        line1: '',
        city: '',
        region: '',
        postcode: '',
        country: new Intl.Locale(navigator.language).region ?? '',
        phone: '',
      },
    },
  });
  const open = useMutation({
    mutationFn: openHouse,
    onSuccess: got => setBadge(got.badge),
  });
  if (badge)
    return (
      <main className={css.opening}>
        <h1>The house is open</h1>
        <p>
          Your badge is <b className={textCss.code}>{badge}</b>. Keep it: you sign in with it and your PIN. A
          badge to wear is printed under Setup, People.
        </p>
        <Button
          variant="contained"
          size="large"
          onClick={() => void client.refetchQueries(meQuery).then(() => client.invalidateQueries(houseQuery))}
        >
          Go in
        </Button>
      </main>
    );
  return (
    <main className={css.opening}>
      <img src="/mark.svg" alt="" width={64} height={64} />
      <h1>Open this house</h1>
      <p className={textCss.quiet}>
        It is empty. This page is there once; everything on it can be changed later.
      </p>
      <Form onSend={() => void form.handleSubmit(input => open.mutate(input))()} ready={!open.isPending}>
        {FIELDS.map((fields, i) => (
          <section key={HEADS[i]}>
            <h2>{HEADS[i]}</h2>
            {fields.map(([name, label, hint]) => (
              <Controller
                key={name}
                control={form.control}
                name={name}
                render={({ field, fieldState }) => (
                  <Line
                    label={label}
                    value={String(field.value)}
                    onType={field.onChange}
                    onBlur={field.onBlur}
                    password={name === 'admin.pin'}
                    hint={hint}
                    wrong={fieldState.error && `${label} ${fieldState.error.message ?? 'is not right'}.`}
                  />
                )}
              />
            ))}
          </section>
        ))}
        <ProblemNote error={open.error} />
        <Button
          type="submit"
          variant="contained"
          size="large"
          fullWidth
          disabled={open.isPending}
          sx={{ mt: 2 }}
        >
          Open the house
        </Button>
      </Form>
    </main>
  );
}
