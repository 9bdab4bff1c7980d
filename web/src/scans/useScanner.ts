import { useEffect, useRef } from 'react';

/** Longest pause between two keys of one scan; people type slower. */
export const SCAN_GAP_MS = 60;
/** Fewest characters that a scan has. */
const FEWEST = 3;

type Taker = (text: string) => void;
interface Listener {
  take: Taker;
  typed: boolean;
  onTyping?: ((text: string) => void) | undefined;
}

/** Those who take scans; the newest one gets them. */
const takers: Listener[] = [];

interface Burst {
  text: string;
  last: number;
  field: HTMLInputElement | HTMLTextAreaElement | null;
  before: string;
}
let burst: Burst = fresh(null, 0);

function fresh(field: Burst['field'], now: number): Burst {
  return { text: '', last: now, field, before: field?.value ?? '' };
}

/** The text field that has the focus, if any. */
function focusedField(target: EventTarget | null): Burst['field'] {
  if (target instanceof HTMLTextAreaElement) return target;
  return target instanceof HTMLInputElement &&
    !['checkbox', 'radio', 'button', 'submit', 'file'].includes(target.type)
    ? target
    : null;
}

/** Puts back what stood in a field before a scan ran into it. */
function restore(field: HTMLInputElement | HTMLTextAreaElement, value: string): void {
  const prototype =
    field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
  Object.getOwnPropertyDescriptor(prototype, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

function onKeyDown(event: KeyboardEvent): void {
  const taker = takers.at(-1);
  if (!taker || event.ctrlKey || event.altKey || event.metaKey || event.isComposing) return;
  const now = event.timeStamp;
  const quick = now - burst.last <= SCAN_GAP_MS;
  const field = focusedField(event.target);
  const typing = taker.typed && field === null;
  if (event.key === 'Enter' || event.key === 'Tab') {
    end(event, taker, quick, typing);
    return;
  }
  if (typing && event.key === 'Backspace') burst = { ...burst, text: burst.text.slice(0, -1), last: now };
  else if (typing && event.key === 'Escape') burst = fresh(field, now);
  else if (event.key.length === 1) {
    if (!quick && !typing) burst = fresh(field, now);
    burst = { ...burst, text: burst.text + event.key, last: now };
    // A space would press a focused button.
    if (event.key === ' ' && !field && (typing || burst.text.length > 1)) event.preventDefault();
  } else return;
  if (typing) taker.onTyping?.(burst.text);
}

function end(event: KeyboardEvent, taker: Listener, quick: boolean, typing: boolean): void {
  const { text, field, before } = burst;
  const scanned = quick && text.length >= FEWEST;
  burst = fresh(focusedField(event.target), 0);
  if (!scanned && !(typing && event.key === 'Enter' && text.trim() !== '')) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (field) restore(field, before);
  taker.onTyping?.('');
  taker.take(text);
}

/* One listener for the whole page, before all others; a scan never reaches a widget. */
if (typeof window !== 'undefined') window.addEventListener('keydown', onKeyDown, { capture: true });

/**
 * Takes scans while the component is shown: before any field or button sees the Enter. With `typed`, slow typing outside of
 * fields counts too (floor and bench), and `onTyping` shows it. The component shown last has the scans.
 */
export function useScanner(
  take: Taker,
  options: { typed?: boolean; onTyping?: (text: string) => void; off?: boolean } = {},
): void {
  const latest = useRef(take);
  latest.current = take;
  const typing = useRef(options.onTyping);
  typing.current = options.onTyping;
  const { typed = false, off = false } = options;
  useEffect(() => {
    if (off) return;
    const listener: Listener = {
      take: text => latest.current(text),
      typed,
      onTyping: text => typing.current?.(text),
    };
    takers.push(listener);
    return () => {
      takers.splice(takers.indexOf(listener), 1);
    };
  }, [typed, off]);
}
