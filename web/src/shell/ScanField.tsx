import { FoundAll } from '@auk/contract';
import InputBase from '@mui/material/InputBase';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { wordsOf } from '../api.js';
import { Form } from '../parts/Form.js';
import pageCss from '../parts/page.module.css';
import textCss from '../parts/text.module.css';
import { pressScanned } from '../rules/target.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import { find } from './api.js';
import css from './shell.module.css';

/** The one field that takes any code or words; a scan made anywhere on a desk page lands here. */
export function ScanField() {
  const [text, setText] = useState('');
  const [found, setFound] = useState<FoundAll | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  /** The newest question and page: an answer that comes late, to another one, leads nowhere. */
  const asked = useRef(0);
  const { key } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever page comes ends the question
  useEffect(() => {
    asked.current++;
  }, [key]);

  const ask = async (wanted: string) => {
    if (wanted.trim() === '') return;
    const mine = ++asked.current;
    try {
      const answer = await find(wanted);
      if (mine !== asked.current) return;
      playTone(answer.exact ? 'right' : 'wrong');
      if (answer.exact) {
        setText('');
        setFound(null);
        void navigate(answer.exact.path);
      } else setFound(answer);
    } catch (error) {
      if (mine !== asked.current) return;
      playTone('wrong');
      const { says, cure } = wordsOf(error);
      setFound({ exact: null, others: [], says: `${says} ${cure}` });
    }
  };
  useScanner(scanned => {
    if (pressScanned(scanned)) return;
    setText(scanned);
    void ask(scanned);
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
    <Form className={css.scanfield} label="Find" onSend={() => void ask(text)}>
      <svg width="20" height="16" viewBox="0 0 20 16" aria-hidden="true">
        <path
          d="M1 0v16M4 0v16M8 0v16M10.500 0v16M14 0v16M18.500 0v16"
          stroke="currentColor"
          strokeWidth="1.8"
        />
      </svg>
      <InputBase
        fullWidth
        inputRef={field}
        placeholder="Scan or type anything: order, product, place, tote, parcel"
        value={text}
        onChange={e => setText(e.target.value)}
        onKeyDown={e => e.key === 'Escape' && setFound(null)}
        inputProps={{ 'aria-label': 'Scan or type anything' }}
      />
      <kbd>F2</kbd>
      {found && (
        <div className={css.found} role="status">
          <p>{found.says}</p>
          {found.others.map(o => (
            <Link key={o.path} to={o.path} onClick={() => setFound(null)}>
              <span className={textCss.code}>{o.code}</span>
              <span className={`${pageCss.grow} ${textCss.cut}`}>{o.name}</span>
              <span className={textCss.quiet}>{o.kind}</span>
            </Link>
          ))}
        </div>
      )}
    </Form>
  );
}
