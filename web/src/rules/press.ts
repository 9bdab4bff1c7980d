import { wordsOf } from '../api.js';
import { pressButton } from '../parts/api.js';
import { playTone } from '../scans/sounds.js';

/** What a press answered for one order, as the largest sentence of a screen says it. */
export interface Pressed {
  says: string;
  cure: string;
  tone: 'right' | 'wrong';
}

/** Presses a button for one order, and sounds; what went wrong is told in words, too. */
export async function pressFor(order: string, code: string): Promise<Pressed> {
  const pressed = await pressButton(code.trim().toUpperCase(), [order]).then(
    ([answer]): Pressed => ({ says: answer!.says, cure: '', tone: answer!.done ? 'right' : 'wrong' }),
    (error: unknown): Pressed => ({ ...wordsOf(error), tone: 'wrong' }),
  );
  playTone(pressed.tone);
  return pressed;
}
