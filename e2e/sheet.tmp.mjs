import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';

const b = await chromium.launch({ executablePath: '/usr/bin/chromium', chromiumSandbox: false });
const p = await b.newPage({ viewport: { width: 1640, height: 860 } });
await p.setContent(
  '<body style="margin:0;display:flex;gap:8px;background:#888">' +
    process.argv
      .slice(3)
      .map(f => `<img height=844 src="data:image/png;base64,${readFileSync(f).toString('base64')}">`)
      .join('') +
    '</body>',
);
await p.screenshot({ path: process.argv[2] });
await b.close();
