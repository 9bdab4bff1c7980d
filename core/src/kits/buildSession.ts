import { parseScan } from '../barcode/parseScan.js';
import type { CountedCode } from '../catalog/scanProduct.js';
import { type Answer, refuse, type Scan, type Step } from '../scans/scan.js';
import { quoted } from '../text.js';

/** State of one portion of a build: kits counted as made, and the place where they go. */
export interface BuildState {
  kind: 'build';
  no: string;
  kit: { sku: string; name: string; codes: CountedCode[] };
  made: number;
  to: string | null;
  history: { made: number; to: string | null }[];
}

/** Scans of a build move no stock; the portion is booked when it is finished. */
export type BuildStep = Step<BuildState, never>;

/** Begins a portion of a build. */
export function openBuild(no: string, kit: BuildState['kit']): BuildState {
  return { kind: 'build', no, kit, made: 0, to: null, history: [] };
}

const HINT = 'Scan the kit’s own code for each one made, and the place where they go.';

/**
 * Answers one scan at a build: the kit's own code counts one made (a case its pack), a typed number as many more, a place says where
 * they are put, UNDO takes the last back. The judge tells which codes are places.
 */
export function buildScan(state: BuildState, scan: Scan): BuildStep {
  const parsed = parseScan(scan.text, Number(scan.at.slice(0, 4)));
  if (!parsed.ok) return refuse(state, parsed.problem, HINT);
  const p = parsed.value;
  if (p.type === 'command' && p.name === 'UNDO') {
    const before = state.history.at(-1);
    if (!before) return refuse(state, 'There is nothing to undo here.', HINT);
    const back = { ...state, ...before, history: state.history.slice(0, -1) };
    return step(back, { kind: 'undone', tone: 'info', says: `Undone: ${told(back)}.`, next: HINT });
  }
  if (p.type === 'quantity' && p.n > 0 && state.made > 0) return made(state, p.n);
  const code = p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
  const units = state.kit.codes.find(c => c.code === code)?.units ?? (state.kit.sku === code ? 1 : undefined);
  if (units !== undefined) return made(state, units);
  const { known } = scan;
  if (known?.kind === 'place') {
    const next = changed(state, { to: known.name });
    return step(next, { kind: 'moved', tone: 'right', says: `They go to ${known.name}.`, next: HINT });
  }
  const what = known ? `This is ${known.name}` : `Nothing has the code ${quoted(scan.text)}`;
  return refuse(state, `${what}; it is neither this kit nor a place.`, HINT);
}

function made(state: BuildState, units: number): BuildStep {
  const next = changed(state, { made: state.made + units });
  return step(next, {
    kind: 'counted',
    tone: 'right',
    says: `${told(next)}.`,
    next: next.to === null ? HINT : 'Scan the next one, or put them into stock.',
  });
}

const told = (s: BuildState) => `${s.made} × ${s.kit.name} made${s.to === null ? '' : `, for ${s.to}`}`;
const changed = (s: BuildState, more: Partial<Pick<BuildState, 'made' | 'to'>>): BuildState => ({
  ...s,
  ...more,
  history: [...s.history, { made: s.made, to: s.to }],
});
const step = (state: BuildState, answer: Answer): BuildStep => ({ state, answer, effects: [] });
