// scan.painted: from the last key of a scan to the painted answer at the bench, in Chromium; against a bare page that writes the key.
import { notePaints, scans, signedIn } from './browser.mjs';
import { percentile } from './house.mjs';
import { prepare } from './scan-roundtrip.mjs';

const SCANS = 200;
const PAUSE_MS = 60;
const GOAL_MS = 50;

export async function* scanPainted() {
  const { sessions, house } = await prepare(1, SCANS + 20);
  await house.close();
  const { orderNo, lines } = sessions[0].state;
  const code = lines[0].product.codes[0].code;
  const { page, close } = await signedIn('AB-1001');
  await page.goto('/bench');
  await page.getByText('Scan a slip or a tote').waitFor();
  await page.keyboard.type(orderNo);
  await page.keyboard.press('Enter');
  await page.locator('[data-part="line"]').first().waitFor();
  await page.evaluate(notePaints, '[data-part="answer"]');
  const value = percentile(await scans(page, code, SCANS, PAUSE_MS), 0.95);
  const counted = await page.locator('[data-part="units"]').first().innerText();
  if (!counted.startsWith(String(SCANS))) throw new Error(`of ${SCANS} scans were counted: ${counted}`);
  // The floor: the same keys into a page that has nothing else to do.
  await page.goto('data:text/html,<body><p id="p">0</p></body>');
  await page.evaluate(() => {
    let n = 0;
    window.addEventListener('keydown', e => {
      if (e.key === 'Enter') document.querySelector('#p').textContent = String(++n);
    });
  });
  await page.evaluate(notePaints, '#p');
  const floor = percentile(await scans(page, code, SCANS, PAUSE_MS), 0.95);
  await close();
  yield {
    n: SCANS,
    value,
    unit: 'ms p95',
    floor,
    ratio: value / floor,
    goal: `p95 <= ${GOAL_MS} ms`,
    holds: value <= GOAL_MS,
  };
}
