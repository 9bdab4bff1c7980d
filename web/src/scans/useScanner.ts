import { useLayoutEffect, useRef } from 'react';
import { codeAtEnd, HICCUP_MS, type Key, scanAtEnd } from './burst.js';

/** What takes a scan; `by` tells that it was typed, not read by a scanner. */
type Taker = (text: string, by?: 'typed') => void;
interface Listener {
  take: Taker;
  /** Which scans it takes; others go to the screen under it. */
  takes: (text: string) => boolean;
  typed: boolean;
  onTyping: (text: string) => void;
  /** Its screen is shown no more. */
  gone?: true;
}
type Field = HTMLInputElement | HTMLTextAreaElement;

/** Those who take scans; the newest one gets them. */
const takers: Listener[] = [];
/** Scans that were made while no screen was there to take them; the next one takes those that are young enough. */
let early: { text: string; by: 'typed' | undefined; at: number }[] = [];
const EARLY_MS = 8_000;
const NOBODY: Listener = {
  takes: () => true,
  take: (text, by) => early.push({ text, by, at: performance.now() }),
  typed: false,
  onTyping: () => {},
};
/** The last keys, in whatever had the focus. */
let keys: (Key & { field: Field | null })[] = [];
let keysIn: Field | null = null;
/** What is being typed outside of fields, where slow typing counts too. */
let typed = '';
const MOST_KEYS = 20_000;
/** The separator of GS1 element strings; a keyboard sends it as Ctrl and ]. */
const GS = '\u001d';

/** The text field that has the focus, if any. */
function focusedField(target: EventTarget | null): Field | null {
  if (target instanceof HTMLTextAreaElement) return target;
  return target instanceof HTMLInputElement &&
    !['checkbox', 'radio', 'button', 'submit', 'file'].includes(target.type)
    ? target
    : null;
}

/** Puts back what stood in a field before a scan ran into it. */
function restore(field: Field, value: string): void {
  const prototype =
    field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
  Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

function onKeyDown(event: KeyboardEvent): void {
  const taker = takers.at(-1) ?? NOBODY;
  if (event.altKey || event.metaKey || event.isComposing) return;
  const field = focusedField(event.target);
  if (event.ctrlKey) {
    if (event.key === ']' || event.key === GS) character(event, taker, field, GS);
    return;
  }
  if (event.key === 'Enter' || event.key === 'Tab') end(event, taker, field);
  else if (event.key.length === 1) character(event, taker, field);
  else if (field === null && (event.key === 'Backspace' || event.key === 'Escape'))
    type(taker, event.key === 'Escape' ? '' : typed.slice(0, -1));
}

function character(event: KeyboardEvent, taker: Listener, field: Field | null, char = event.key): void {
  // A scan that began before the focus came to this field goes on in it.
  const last = keys.at(-1);
  if (field !== keysIn && !(last && event.timeStamp - last.at <= HICCUP_MS)) keys = [];
  keysIn = field;
  const before = field?.value ?? '';
  keys = [...keys.slice(-MOST_KEYS), { char, at: event.timeStamp, before, field }];
  // A space would press a focused button.
  if (char === GS) event.preventDefault();
  if (event.key === ' ' && !field && (taker.typed || keys.length > 1)) event.preventDefault();
  if (taker.typed && field === null) type(taker, typed + char);
}

function type(taker: Listener, text: string): void {
  typed = text;
  taker.onTyping(text);
}

/** Both end at this Enter. A screen that came up in the middle of a scan has seen only its end by hand; the scan is then the longer. */
function whole(byHand: string | null, scan: string | null): string | null {
  return scan !== null && (byHand === null || scan.endsWith(byHand)) ? scan : byHand;
}

/** Gives a scan to the newest screen that takes it. */
function deliver(text: string, by?: 'typed'): void {
  (takers.findLast(t => t.takes(text)) ?? NOBODY).take(text, by);
}

function end(event: KeyboardEvent, taker: Listener, field: Field | null): void {
  const scan = field === keysIn ? scanAtEnd(keys, event.timeStamp) : null;
  const first = scan && keys.slice(-scan.text.length).find(k => k.field === field);
  const byHand = taker.typed && field === null && event.key === 'Enter' && typed.trim() !== '' ? typed : null;
  const read = scan?.text ?? (field === null ? codeAtEnd(keys) : null);
  const text = whole(byHand, read);
  keys = [];
  if (text === null) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (field && first) restore(field, first.before);
  type(taker, '');
  deliver(text, text === read ? undefined : 'typed');
}

/**
 * Another screen comes: those that are shown now take no more scans, and what waited and what is scanned until then is its own. Gives what
 * lets them take again, should it not come.
 */
export function forNext(texts: readonly string[]): () => void {
  const left = takers.splice(0);
  for (const text of texts) NOBODY.take(text);
  return () => void takers.unshift(...left.filter(t => !t.gone));
}

/** A scan that came by another way than keys, as from a camera. */
export const scanned = (text: string): void => deliver(text);

/* One listener for the whole page, before all others; a scan never reaches a widget. */
if (typeof window !== 'undefined') window.addEventListener('keydown', onKeyDown, { capture: true });

/**
 * Takes scans while the component is shown: before any field or button sees the Enter. With `typed`, slow typing outside of
 * fields counts too (floor and bench), and `onTyping` shows it. The component shown last has the scans.
 */
export function useScanner(
  take: Taker,
  options: {
    typed?: boolean;
    onTyping?: (text: string) => void;
    off?: boolean;
    takes?: (text: string) => boolean;
  } = {},
): void {
  const latest = useRef(take);
  latest.current = take;
  const typing = useRef(options.onTyping);
  typing.current = options.onTyping;
  const { typed: slow = false, off = false } = options;
  const takes = useRef(options.takes);
  takes.current = options.takes;
  // Before the screen is painted: who sees it may scan at once.
  useLayoutEffect(() => {
    if (off) return;
    const listener: Listener = {
      takes: text => takes.current?.(text) ?? true,
      take: (text, by) => latest.current(text, by),
      typed: slow,
      onTyping: text => typing.current?.(text),
    };
    takers.push(listener);
    const waiting = early.filter(e => performance.now() - e.at < EARLY_MS);
    early = [];
    for (const e of waiting) queueMicrotask(() => listener.take(e.text, e.by));
    return () => {
      listener.gone = true;
      const at = takers.indexOf(listener);
      if (at !== -1) takers.splice(at, 1);
    };
  }, [slow, off]);
}
