import type { Tone } from '@auk/core';

/** Notes of each tone: frequency in hertz and length in seconds, one after another. */
const NOTES: Record<Tone, [hertz: number, seconds: number][]> = {
  right: [[880, 0.09]],
  row: [
    [880, 0.07],
    [1175, 0.09],
  ],
  attention: [
    [523, 0.12],
    [523, 0.12],
    [784, 0.16],
  ],
  info: [[660, 0.07]],
  complete: [
    [660, 0.09],
    [880, 0.09],
    [1175, 0.16],
  ],
  wrong: [
    [196, 0.18],
    [147, 0.26],
  ],
};

let context: AudioContext | null = null;

/** Plays a short sound made in the browser; silent where sound is not allowed. */
export function playTone(tone: Tone): void {
  try {
    context ??= new AudioContext();
    let at = context.currentTime;
    for (const [hertz, seconds] of NOTES[tone]) {
      const oscillator = context.createOscillator();
      const gain = context.createGain();
      oscillator.type = tone === 'wrong' ? 'square' : 'sine';
      oscillator.frequency.value = hertz;
      gain.gain.setValueAtTime(0.16, at);
      gain.gain.exponentialRampToValueAtTime(0.001, at + seconds);
      oscillator.connect(gain).connect(context.destination);
      oscillator.start(at);
      oscillator.stop(at + seconds);
      at += seconds;
    }
  } catch {
    // No sound device: the edge colour says it too.
  }
}
