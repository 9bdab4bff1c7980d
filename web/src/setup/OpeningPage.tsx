import { MadeBadge, OpenHouse } from '@auk/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { type FieldPath, useForm } from 'react-hook-form';
import { post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';

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
export function OpeningPage() {
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
        currency: 'USD',
        line1: '',
        city: '',
        region: '',
        postcode: '',
        country: 'US',
        phone: '',
      },
    },
  });
  const open = useMutation({
    mutationFn: (input: Input) => post(MadeBadge, 'house/open', input),
    onSuccess: got => setBadge(got.badge),
  });
  if (badge)
    return (
      <main className="opening">
        <h1>The house is open</h1>
        <p>
          Your badge is <b className="code">{badge}</b>. Keep it: you sign in with it and your PIN. A badge to
          wear is printed under Setup, People.
        </p>
        <Button variant="contained" size="large" onClick={() => void client.invalidateQueries()}>
          Go in
        </Button>
      </main>
    );
  const { errors } = form.formState;
  const errorOf = (name: string) =>
    name
      .split('.')
      .reduce<unknown>((e, part) => (e as Record<string, unknown> | undefined)?.[part], errors) as
      | { message?: string }
      | undefined;
  return (
    <main className="opening">
      <img src="/mark.svg" alt="" width={64} height={64} />
      <h1>Open this house</h1>
      <p className="quiet">It is empty. This page is there once; everything on it can be changed later.</p>
      <form onSubmit={form.handleSubmit(input => open.mutate(input))}>
        {FIELDS.map((fields, i) => (
          <section key={HEADS[i]}>
            <h2>{HEADS[i]}</h2>
            {fields.map(([name, label, hint]) => {
              const error = errorOf(name);
              return (
                <TextField
                  key={name}
                  label={label}
                  fullWidth
                  margin="dense"
                  autoComplete="off"
                  type={name === 'admin.pin' ? 'password' : 'text'}
                  error={!!error}
                  helperText={error ? `${label} ${error.message ?? 'is not right'}.` : hint}
                  {...form.register(name)}
                />
              );
            })}
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
      </form>
    </main>
  );
}
