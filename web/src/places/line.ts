/** How the walks of a plan are told apart on the map and beside their lists: by pattern first, by colour too. */
export interface WalkLine {
  stroke: string;
  dash: string | undefined;
  width: number;
}

const LINES: readonly WalkLine[] = [
  { stroke: 'var(--act)', dash: undefined, width: 3.5 },
  { stroke: 'var(--info)', dash: '9 5', width: 3.5 },
  { stroke: 'var(--done)', dash: '2 4', width: 4 },
  { stroke: 'var(--ink)', dash: '12 4 2 4', width: 2.5 },
];

/** As many walks can be told apart at once. */
export const MOST_WALKS = LINES.length;
export const lineOf = (nth: number): WalkLine => LINES[nth % LINES.length]!;
