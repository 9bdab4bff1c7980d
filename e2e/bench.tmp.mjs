import { open } from './shot.tmp.mjs';

const B = 'http://127.0.0.1:7399';
const { b, p } = await open('AB-1002');
await p.screenshot({ path: '/tmp/dev/b0.png' });
const scan = async t => {
  await p.keyboard.type(t);
  await p.keyboard.press('Enter');
  await p.waitForTimeout(200);
};
const os = (await (await p.request.get(B + '/api/v1/orders?stage=Picked')).json()).rows;
const o = os.find(x => x.lines >= 3) ?? os[0];
const prod = async sku => (await (await p.request.get(B + '/api/v1/products/' + sku)).json()).codes[0].code;
await scan(o.no);
await p.waitForTimeout(600);
await p.screenshot({ path: '/tmp/dev/b1.png' });
await scan('AUK-LABEL');
for (let i = 0; i < 200; i++) {
  const l = p.locator('.pline.now');
  if ((await l.count()) === 0) break;
  const sku = await l.locator('.code').innerText();
  await scan(await prod(sku));
  if (i === 1) await p.screenshot({ path: '/tmp/dev/b2.png' });
}
await scan('WRONG-1');
await p.screenshot({ path: '/tmp/dev/b3.png' });
await scan('BX-5');
await scan('4.2 lb');
await scan('AUK-LABEL');
await p.waitForTimeout(1200);
await p.screenshot({ path: '/tmp/dev/b4.png' });
await p.keyboard.press('Alt+1');
await p.waitForTimeout(1500);
await p.screenshot({ path: '/tmp/dev/b5.png' });
await b.close();
