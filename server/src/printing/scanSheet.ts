import { drawCode128, finish, line, newPaper } from './paper.js';

/** One code of the sheet: what is scanned, its name, what it does. */
export interface SheetCode {
  code: string;
  name: string;
  does: string;
}

const COMMANDS: SheetCode[] = [
  { code: 'AUK-UNDO', name: 'Undo', does: 'takes the last scan back' },
  { code: 'AUK-LABEL', name: 'Label', does: 'closes the parcel, then buys the first service' },
  { code: 'AUK-NEXTBOX', name: 'Next box', does: 'bench: closes this parcel, opens another' },
  { code: 'AUK-WITHOUT', name: 'Leave out', does: 'bench: goes without what may be left out' },
  { code: 'AUK-PHOTO', name: 'Photo', does: 'bench: takes a picture of the open box' },
  { code: 'AUK-WEIGH', name: 'Weigh', does: 'bench: takes the weight from the scale' },
  { code: 'AUK-REOPEN', name: 'Open again', does: 'bench: takes a closed parcel open again' },
  { code: 'AUK-ASIDE', name: 'Set aside', does: 'leaves the order for later' },
  { code: 'AUK-YES', name: 'Yes', does: 'bench: confirms a note, a warning, a weight' },
  { code: 'AUK-ALL', name: 'All the rest', does: 'takes all pieces of this stop or line' },
  { code: 'AUK-SHORT', name: 'Not enough', does: 'picking: the rest is not there' },
  { code: 'AUK-NEXT', name: 'Next list', does: 'Floor: takes the pick list that is next' },
  { code: 'AUK-SKIP', name: 'Later', does: 'picking: goes on to the next stop' },
  { code: 'AUK-CHANGE', name: 'Change', does: 'bench: changes what the order wants' },
  { code: 'AUK-SPOILED', name: 'Spoiled', does: 'preparing: writes the piece in hand off' },
  { code: 'AUK-VOID', name: 'Void the label', does: 'bench: gives a bought label back' },
];
const COLUMNS = [48, 330];
const ROW = 112;

/** Codes on one page. */
const PER_PAGE = 12;

/** Draws the scan sheet on letter paper: commands first, then boxes. */
export const drawScanSheet = (boxes: readonly SheetCode[]): Promise<Buffer> =>
  drawCodes('Scan sheet', [...COMMANDS, ...boxes]);

/** Draws two columns of large codes on letter paper, each with its words. */
export function drawCodes(title: string, codes: readonly SheetCode[]): Promise<Buffer> {
  const paper = newPaper('LETTER', title);
  codes.forEach((c, n) => {
    const i = n % PER_PAGE;
    if (n > 0 && i === 0) paper.addPage();
    if (i === 0) line(paper, 'bold', 24, title, COLUMNS[0]!, 36, 500);
    const [x, y] = [COLUMNS[i % 2]!, 84 + Math.floor(i / 2) * ROW];
    line(paper, 'bold', 17, c.name, x, y, 240);
    line(paper, 'body', 10, c.does, x, y + 22, 240);
    drawCode128(paper, c.code, x, y + 38, 40, 3);
    line(paper, 'code', 9, c.code, x, y + 80, 240);
  });
  return finish(paper);
}
