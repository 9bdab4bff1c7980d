// dev: walk the path with screenshots
import { open } from './shot.tmp.mjs';

const B = 'http://127.0.0.1:7399';
const { b, p } = await open('AB-1003', { width: 390, height: 844 });
await p.screenshot({ path: '/tmp/dev/f0.png' });
const lists = await (await p.request.get(B + '/api/v1/picking/lists')).json();
const l = lists.find(x => x.state === 'released');
await p.keyboard.type(l.no);
await p.keyboard.press('Enter');
await p.waitForTimeout(700);
const scan = async t => {
  await p.keyboard.type(t);
  await p.keyboard.press('Enter');
  await p.waitForTimeout(150);
};
const v = await (await p.request.get(B + '/api/v1/picking/lists/' + l.no)).json();
const prod = async sku => (await (await p.request.get(B + '/api/v1/products/' + sku)).json()).codes[0].code;
await p.screenshot({ path: '/tmp/dev/f1.png' });
await scan(v.rows[0].place);
await scan(await prod(v.rows[0].sku));
await p.screenshot({ path: '/tmp/dev/f2.png' });
await scan(await prod('BOOK-1ST'));
await p.screenshot({ path: '/tmp/dev/f3.png' });
for (let i = 0; i < 200; i++) {
  const s = await p.locator('.place').innerText();
  if (s === 'Done') break;
  const sku = await p.locator('.thing .code').innerText();
  await scan(s);
  await scan(await prod(sku));
  if (
    await p
      .getByRole('button', { name: /^All \d+ more/ })
      .isEnabled()
      .catch(() => false)
  )
    await scan('AUK-ALL');
}
await p.screenshot({ path: '/tmp/dev/f4.png' });
await b.close();
console.log(l.no);
