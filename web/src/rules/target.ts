import { useEffect, useRef } from 'react';

/** Whether a scan is the code of a button of the rule book. */
export const isButton = (text: string): boolean => /^RB-[A-Z0-9]{1,12}$/i.test(text.trim());

type Press = (code: string) => void;
let target: Press | null = null;

/** The scan of a button's code goes to what is on the page; false when nothing there takes it. */
export function pressScanned(text: string): boolean {
  if (!target || !isButton(text)) return false;
  target(text.trim().toUpperCase());
  return true;
}

/** While this is on the page, scanned buttons are pressed here; null takes none. */
export function usePressTarget(press: Press | null): void {
  const newest = useRef(press);
  newest.current = press;
  const takes = press !== null;
  useEffect(() => {
    if (!takes) return;
    const mine: Press = code => newest.current?.(code);
    target = mine;
    return () => {
      if (target === mine) target = null;
    };
  }, [takes]);
}
