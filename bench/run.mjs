// npm run bench: measures the work and a floor for it in one run. `--json --only NAME` prints one JSON object a line.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { channelsPull } from './channels-pull.mjs';
import { importOrders } from './import-orders.mjs';
import { ordersList } from './orders-list.mjs';
import { scanRoundtrip } from './scan-roundtrip.mjs';
import { stockAllocate } from './stock-allocate.mjs';
import { stockRebuild } from './stock-rebuild.mjs';

/** Every benchmark by name; each gives rows {name, n, value, unit, floor, ratio, goal, holds}. */
const BENCHES = {
  'scan.roundtrip': scanRoundtrip,
  'import.orders': importOrders,
  'channels.pull': channelsPull,
  'orders.list': ordersList,
  'stock.allocate': stockAllocate,
  'stock.rebuild': stockRebuild,
};

const args = process.argv.slice(2);
const only = args.includes('--only') ? args[args.indexOf('--only') + 1] : null;
const json = args.includes('--json');
if (only && !BENCHES[only]) {
  console.error(`There is no benchmark ${only}. They are: ${Object.keys(BENCHES).join(', ')}.`);
  process.exit(1);
}

const rows = [];
for (const [name, bench] of Object.entries(BENCHES)) {
  if (only && name !== only) continue;
  for await (const row of bench()) {
    const full = { name, ...row };
    rows.push(full);
    if (json) console.log(JSON.stringify(full));
    else console.log(line(full));
  }
}

function line(r) {
  return `${r.name.padEnd(16)} n ${String(r.n).padStart(7)}  ${r.value.toFixed(1)} ${r.unit}  floor ${r.floor.toFixed(1)}  ratio ${r.ratio.toFixed(2)}  goal ${r.goal}  ${r.holds ? 'holds' : 'does not hold'}`;
}

if (!json && !only) {
  const table = rows.map(
    r =>
      `| ${r.name} | ${r.n} | ${r.value.toFixed(1)} ${r.unit} | ${r.floor.toFixed(1)} ${r.unit} | ${r.ratio.toFixed(2)} | ${r.goal} | ${r.holds ? 'yes' : 'no'} |`,
  );
  const head = existsSync('docs/bench-notes.md') ? readFileSync('docs/bench-notes.md', 'utf8') : '';
  const text = `# Benchmarks\n\nMade by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}, ${cpus().length} cores, Node ${process.versions.node}.\n\n| name | n | value | floor | ratio | goal | holds |\n|---|---:|---:|---:|---:|---|---|\n${table.join('\n')}\n\n${head}`;
  writeFileSync('docs/bench.md', text);
}
process.exit(0);
