import { useQuery } from '@tanstack/react-query';
import { moment } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import { photoAddress, photosQuery } from '../api.js';

/** What the bench's camera saw of an order, to answer a buyer. */
export function Photos({ orderId }: { orderId: string }) {
  const photos = useQuery(photosQuery(orderId)).data ?? [];
  if (photos.length === 0) return null;
  return (
    <section className={pageCss.panel} aria-label="Photos">
      <h2>Photos of the open box</h2>
      {photos.map(p => (
        <a key={p.id} href={photoAddress(p.id)} target="_blank" rel="noreferrer">
          <img
            src={photoAddress(p.id)}
            alt={`Taken ${moment(p.takenAt)} by ${p.person ?? 'nobody known'}`}
            width={200}
          />
        </a>
      ))}
    </section>
  );
}
