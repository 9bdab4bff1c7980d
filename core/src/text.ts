/** English count with its noun. Example: `count(1, 'order')` is `'1 order'`, `count(3, 'order')` is `'3 orders'`. */
export function count(n: number, noun: string, plural = `${noun}s`): string {
  return `${n} ${n === 1 ? noun : plural}`;
}

/** Cuts a text for showing it back in a sentence: control characters become dots, at most `most` characters stay. */
export function quoted(text: string, most = 40): string {
  const plain = [...text].map(c => (isControl(c) ? '·' : c));
  return plain.length > most ? `${plain.slice(0, most).join('')}…` : plain.join('');
}

/** True when the character is a C0 or C1 control (a scanner never means one, except GS in GS1 strings). */
export function isControl(c: string): boolean {
  const n = c.codePointAt(0) ?? 0;
  return n < 32 || (n >= 127 && n < 160);
}
