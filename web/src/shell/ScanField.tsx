import { FoundAll } from '@auk/contract';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { get, wordsOf } from '../api.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';

/** The one field that takes any code or words; a scan made anywhere on a desk page lands here. */
export function ScanField() {
  const [text, setText] = useState('');
  const [found, setFound] = useState<FoundAll | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  const find = async (wanted: string) => {
    if (wanted.trim() === '') return;
    try {
      const answer = await get(FoundAll, `find?text=${encodeURIComponent(wanted.slice(0, 2_000))}`);
      playTone(answer.exact ? 'right' : 'wrong');
      if (answer.exact) {
        setText('');
        setFound(null);
        void navigate(answer.exact.path);
      } else setFound(answer);
    } catch (error) {
      const { says, cure } = wordsOf(error);
      setFound({ exact: null, others: [], says: `${says} ${cure}` });
    }
  };
  useScanner(scanned => {
    setText(scanned);
    void find(scanned);
  });
  useEffect(() => {
    const focus = (event: KeyboardEvent) => {
      if (event.key !== 'F2') return;
      event.preventDefault();
      field.current?.focus();
      field.current?.select();
    };
    window.addEventListener('keydown', focus);
    return () => window.removeEventListener('keydown', focus);
  }, []);

  return (
    <form
      className="scanfield"
      aria-label="Find"
      onSubmit={event => {
        event.preventDefault();
        void find(text);
      }}
    >
      <svg width="20" height="16" viewBox="0 0 20 16" aria-hidden="true">
        <path d="M1 0v16M4 0v16M8 0v16M10.500 0v16M14 0v16M18.500 0v16" stroke="#c9d0d4" strokeWidth="1.8" />
      </svg>
      <input
        ref={field}
        aria-label="Scan or type anything"
        placeholder="Scan or type anything: order, product, place, tote, parcel"
        value={text}
        onChange={e => setText(e.target.value)}
        onKeyDown={e => e.key === 'Escape' && setFound(null)}
      />
      <kbd>F2</kbd>
      {found && (
        <div className="found" role="status">
          <p>{found.says}</p>
          {found.others.map(o => (
            <Link key={o.path} to={o.path} onClick={() => setFound(null)}>
              <span className="code">{o.code}</span>
              <span className="grow cut">{o.name}</span>
              <span className="quiet">{o.kind}</span>
            </Link>
          ))}
        </div>
      )}
    </form>
  );
}
