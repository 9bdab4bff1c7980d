import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { wordsOf } from '../../api.js';
import { useTitle } from '../../parts/useTitle.js';
import css from '../../scans/bench.module.css';
import { dockQuery } from '../api.js';
import { Dock } from '../parts/Dock.js';

/** The dock: one purchase order, received by scan. */
export default function DockPage() {
  const { no } = useParams();
  const opened = useQuery(dockQuery(no!));
  useTitle(no ?? 'Dock');
  return (
    <div className={`${css.bench} ${css.dock}`}>
      {opened.data ? (
        <Dock key={opened.data.sessionId} opened={opened.data} />
      ) : (
        <Closed error={opened.error} />
      )}
    </div>
  );
}

function Closed({ error }: { error: unknown }) {
  if (!error) return null;
  const { says, cure } = wordsOf(error);
  return (
    <main className={`${css.wait} ${css.edge} ${css.wrong}`} role="alert">
      <b>{says}</b>
      <span className={css.plain}>{cure}</span>
      <Link to="/receiving">All purchase orders</Link>
    </main>
  );
}
