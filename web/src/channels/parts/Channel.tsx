import { ChannelView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { clock, moment, span } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { troubleQuery } from '../api.js';
import css from '../channels.module.css';

export function Channel({
  channel: c,
  pull,
  edit,
}: {
  channel: ChannelView;
  pull: () => void;
  edit: (() => void) | null;
}) {
  const l = c.link!;
  const [shape, words, tone] = l.doing
    ? ['◔', l.doing, textCss.tide]
    : !l.active
      ? ['❚❚', 'switched off', undefined]
      : l.error
        ? ['▲', l.error, textCss.stop]
        : l.succeededAt
          ? ['✓', 'all is well', textCss.good]
          : ['○', 'not asked yet', undefined];
  const counts = l.lastCounts;
  return (
    <section className={css.channel} aria-label={c.name}>
      <div>
        <h2>{c.name}</h2>
        <p className={textCss.quiet}>
          {c.brand}, {c.currency}
        </p>
      </div>
      <div>
        <p className={tone} role="status">
          <span aria-hidden="true">{shape}</span> {words}
        </p>
        {counts && (
          <p className={textCss.quiet}>
            {counts.new} new, {counts.changed} changed, {counts.same} the same
            {counts.unreadable! > 0 && <b className={textCss.stop}> {counts.unreadable} unreadable</b>}
          </p>
        )}
        <Trouble code={c.code} on={(counts?.unreadable ?? 0) > 0} />
      </div>
      <div className={textCss.quiet}>
        <p>{l.succeededAt ? `last success ${moment(l.succeededAt)}` : 'no success yet'}</p>
        {l.error && l.triedAt && <p>last try {moment(l.triedAt)}</p>}
        <p>
          every {span(l.everyMinutes)}, next {clock(l.nextPullAt)}
        </p>
      </div>
      <div className={textCss.quiet}>
        <p>
          {count(c.listings, 'listing')},{' '}
          {c.unlinked > 0 ? (
            <Link className={textCss.stop} to={`/products/listings?channel=${c.code}`}>
              {c.unlinked} unlinked
            </Link>
          ) : (
            'all linked'
          )}
        </p>
        <p className={l.pushError ? textCss.stop : ''}>
          {l.pushError
            ? `▲ stock: ${l.pushError}`
            : l.pushedAt
              ? `stock told ${moment(l.pushedAt)}`
              : 'stock not told yet'}
        </p>
        <p className={`${textCss.code} ${textCss.small} ${textCss.cut}`} title={l.address}>
          {l.address.replace(/^https?:\/\//, '')} ·{' '}
          {l.keyEnds === null ? '▲ key cannot be opened, enter it again' : `key …${l.keyEnds}`}
        </p>
      </div>
      <div className={css.acts}>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          disabled={l.doing !== null || !l.active}
          onClick={pull}
        >
          {l.doing ? 'Pulling …' : 'Pull now'}
        </Button>
        {edit && (
          <Button size="small" onClick={edit}>
            Change
          </Button>
        )}
      </div>
    </section>
  );
}

function Trouble({ code, on }: { code: string; on: boolean }) {
  const trouble = useQuery({ ...troubleQuery(code), enabled: on });
  return (
    <>
      {trouble.data?.slice(0, 5).map(t => (
        <p key={t.number} className={`${textCss.small} ${textCss.stop}`}>
          <span className={textCss.code}>{t.number}</span> {t.why}
        </p>
      ))}
    </>
  );
}
