import type { BrandView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { FilePick } from '../../parts/FilePick.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { saveBrand, saveLogo } from '../api.js';
import css from '../mails.module.css';

interface Props {
  brands: BrandView[];
  nameOf: (channel: string) => string;
  done: () => Promise<unknown>;
}

/** How mails and pages of each channel look: its colour and logo. */
export function Brands({ brands, nameOf, done }: Props) {
  const [editing, setEditing] = useState<BrandView | null>(null);
  const logo = useMutation({
    mutationFn: ([channel, file]: [string, File]) => saveLogo(channel, file),
    onSuccess: done,
  });
  return (
    <section>
      <h2>How brands look</h2>
      {brands.map(b => (
        <div key={b.channel} className={css.brand}>
          <span className={css.swatch} style={{ background: b.colour }} aria-hidden="true" />
          <span>
            {b.brand}
            <div className={textCss.quiet}>
              {nameOf(b.channel)}
              {b.hasLogo && ', with a logo'}
            </div>
          </span>
          <Button
            size="small"
            aria-label={`Change the look of ${b.brand}, ${nameOf(b.channel)}`}
            onClick={() => setEditing(b)}
          >
            Change
          </Button>
          <FilePick
            label={`Logo of ${b.brand}, ${nameOf(b.channel)}`}
            accept="image/png,image/jpeg"
            onFile={file => logo.mutate([b.channel, file])}
          >
            <Button component="span" size="small" tabIndex={-1}>
              Logo
            </Button>
          </FilePick>
        </div>
      ))}
      <ProblemNote error={logo.error} />
      {editing && <EditBrand brand={editing} done={done} leave={() => setEditing(null)} />}
    </section>
  );
}

function EditBrand({
  brand,
  done,
  leave,
}: {
  brand: BrandView;
  done: () => Promise<unknown>;
  leave: () => void;
}) {
  const [colour, setColour] = useState(brand.colour);
  const [sentFrom, setSentFrom] = useState(brand.sentFrom);
  const save = useMutation({
    mutationFn: () => saveBrand(brand.channel, { colour, sentFrom }),
    onSuccess: async () => {
      await done();
      leave();
    },
  });
  return (
    <Ask
      title={`The look of ${brand.brand}`}
      act="Save"
      busy={save.isPending}
      error={save.error}
      onAct={() => save.mutate()}
      onLeave={leave}
    >
      <Line
        label="Colour"
        hint="Six letters and digits after a #, as web pages name colours."
        most={7}
        autoFocus
        value={colour}
        onType={setColour}
      />
      <Line label="Sent from" hint="Empty: the house’s own address." value={sentFrom} onType={setSentFrom} />
    </Ask>
  );
}
