import { can, type RuleBookView } from '@auk/contract';
import { type NumberedRule, type RuleBook, rulesOf } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { dryRunQuery, rulesQuery } from '../api.js';
import { freeId, newRule, sameBook, withNewRule } from '../draft.js';
import { BookRows } from '../parts/BookRows.js';
import { DryRunPanel } from '../parts/DryRunPanel.js';
import { OlderBooks } from '../parts/OlderBooks.js';
import { SaveBar } from '../parts/SaveBar.js';
import { SpendingBar } from '../parts/SpendingBar.js';
import { Starts } from '../parts/Starts.js';
import css from '../rules.module.css';

/** The rule book, from top to bottom, and beside it what it would do. */
export default function RulesPage() {
  const view = useQuery(rulesQuery);
  if (!view.data) return <Waiting error={view.error} />;
  return <Book view={view.data} />;
}

/** The book as it is being written, which rule is open, and what stands beside it. */
function useDraft(view: RuleBookView) {
  // What is being written stays as it is when somebody else saves: saving tells what they changed.
  const [draft, setDraft] = useState<{ base: number; book: RuleBook } | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [beside, setBeside] = useState<'dry run' | 'older' | 'starts'>('dry run');
  const book = draft?.book ?? view.book;
  const change = (next: RuleBook) =>
    setDraft(
      sameBook(next, view.book) && (draft?.base ?? view.no) === view.no
        ? null
        : { base: draft?.base ?? view.no, book: next },
    );
  const begin = () => {
    const rule = newRule(freeId(book, 'r'));
    change(withNewRule(book, rule));
    setOpen(rule.id);
  };
  const show = (what: typeof beside) => setBeside(beside === what ? 'dry run' : what);
  return { draft, setDraft, open, setOpen, beside, setBeside, show, book, change, begin };
}

function Book({ view }: { view: RuleBookView }) {
  const may = can(useMe(), 'rules.change');
  const now = useDraft(view);
  const [tried, setTried] = useState<string | null>(null);
  const dryRun = useQuery({ ...dryRunQuery(tried ?? ''), enabled: tried !== null });
  const rules = rulesOf(now.book);
  return (
    <>
      <Head title="Rules" about={aboutOf(view)}>
        {rulesOf(view.book).some(r => r.button) && (
          <Button
            variant="outlined"
            color="secondary"
            href="/api/v1/rules/buttons.pdf"
            target="_blank"
            rel="noreferrer"
          >
            Print button codes
          </Button>
        )}
        <Button variant="outlined" color="secondary" onClick={() => now.show('older')}>
          Older books
        </Button>
        {may && (
          <>
            <Button variant="outlined" color="secondary" onClick={() => now.show('starts')}>
              Starting points
            </Button>
            <Button variant="outlined" color="secondary" onClick={now.begin}>
              New rule
            </Button>
          </>
        )}
      </Head>
      <div className={css.desk}>
        <div>
          <BookRows
            view={view}
            book={now.book}
            may={may}
            open={now.open}
            onOpen={now.setOpen}
            onChange={now.change}
            acted={actedBy(view, rules, dryRun.data?.result ?? null)}
          />
          {rules.length === 0 && (
            <p className={textCss.empty}>
              No rules yet. A rule chooses by itself what is chosen by hand today: a service, a box, a
              signature, a tag. Begin with <b>New rule</b>; try it on real orders before it counts.
            </p>
          )}
        </div>
        <Beside view={view} now={now} may={may} tried={tried} onAsked={setTried} />
      </div>
      <SpendingBar rules={rulesOf(view.book)} />
    </>
  );
}

interface BesideProps {
  view: RuleBookView;
  now: ReturnType<typeof useDraft>;
  may: boolean;
  tried: string | null;
  onAsked: (id: string | null) => void;
}

/** Beside the book: keeping what was written, and the older books, starting points, or what the book would do. */
function Beside({ view, now, may, tried, onAsked }: BesideProps) {
  const { draft, setDraft, beside, setBeside, book, change } = now;
  const rules = rulesOf(book);
  const opened = rules.find(r => r.id === now.open) ?? null;
  return (
    <aside className={`${pageCss.side} ${css.beside}`}>
      {draft && (
        <SaveBar
          draft={draft}
          view={view}
          onSaved={() => {
            setDraft(null);
            now.setOpen(null);
          }}
          onLeave={() => setDraft(null)}
          onTakeOver={base => setDraft({ ...draft, base })}
        />
      )}
      {beside === 'older' && (
        <OlderBooks
          no={view.no}
          may={may && !draft}
          onBook={from => {
            change(from);
            setBeside('dry run');
          }}
          leave={() => setBeside('dry run')}
        />
      )}
      {may && (beside === 'starts' || (beside === 'dry run' && rules.length === 0)) && (
        <Starts book={book} onChange={change} />
      )}
      {may && beside === 'dry run' && rules.length > 0 && (
        <DryRunPanel
          book={book}
          rule={opened && { id: opened.id, no: opened.no }}
          id={tried}
          onAsked={onAsked}
        />
      )}
    </aside>
  );
}

const aboutOf = ({ no }: RuleBookView): string =>
  no === 0
    ? 'From top to bottom, the later one wins.'
    : `Book ${no} · from top to bottom, the later one wins.`;

/** On how many orders each rule acts: in the dry run where there is one, else what it did. */
function actedBy(
  view: RuleBookView,
  rules: readonly NumberedRule[],
  result: { orders: number; rules: { rule: string; acted: number }[] } | null,
): (id: string) => { n: number; of: string } | null {
  const tried = new Map(result?.rules.map(r => [r.rule, r.acted]));
  const known = new Set(rules.filter(r => r.runs).map(r => r.id));
  return id => {
    const n = tried.get(id);
    if (result && n !== undefined) return { n, of: `of ${result.orders}` };
    return known.has(id) && view.no > 0 ? { n: view.acted[id] ?? 0, of: 'orders' } : null;
  };
}
