// npm run bench: measures the work and a floor for it in one run. `--json --only NAME` prints one JSON object a line.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { channelsPull } from './channels-pull.mjs';
import { frontLoad } from './front-load.mjs';
import { importOrders } from './import-orders.mjs';
import { inboundBoxes } from './inbound-boxes.mjs';
import { inboundPallets } from './inbound-pallets.mjs';
import { inboundPapers } from './inbound-papers.mjs';
import { inboundWays } from './inbound-ways.mjs';
import { intakeCatalogue } from './intake-catalogue.mjs';
import { labelsBatch } from './labels-batch.mjs';
import { listScroll } from './list-scroll.mjs';
import { ordersList } from './orders-list.mjs';
import { packingBoxplan } from './packing-boxplan.mjs';
import { packingCut } from './packing-cut.mjs';
import { pickingPlan } from './picking-plan.mjs';
import { pickingRoute } from './picking-route.mjs';
import { ratingJoint } from './rating-joint.mjs';
import { ratingQuotes } from './rating-quotes.mjs';
import { rulesBook } from './rules-book.mjs';
import { rulesDryrun } from './rules-dryrun.mjs';
import { scanPainted } from './scan-painted.mjs';
import { scanReceive } from './scan-receive.mjs';
import { scanRoundtrip } from './scan-roundtrip.mjs';
import { stockAllocate } from './stock-allocate.mjs';
import { stockRebuild } from './stock-rebuild.mjs';

/** Every benchmark by name; each gives rows {name, n, value, unit, floor, ratio, goal, holds}. */
const BENCHES = {
  'scan.roundtrip': scanRoundtrip,
  'scan.receive': scanReceive,
  'scan.painted': scanPainted,
  'front.load': frontLoad,
  'list.scroll': listScroll,
  'import.orders': importOrders,
  'intake.catalogue': intakeCatalogue,
  'channels.pull': channelsPull,
  'orders.list': ordersList,
  'picking.route': pickingRoute,
  'picking.plan': pickingPlan,
  'packing.boxplan': packingBoxplan,
  'packing.cut': packingCut,
  'rating.quotes': ratingQuotes,
  'rating.joint': ratingJoint,
  'labels.batch': labelsBatch,
  'rules.book': rulesBook,
  'rules.dryrun': rulesDryrun,
  'inbound.boxes': inboundBoxes,
  'inbound.pallets': inboundPallets,
  'inbound.ways': inboundWays,
  'inbound.papers': inboundPapers,
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
  // After each, so that a run that is ended early keeps what it measured.
  if (!json) writeFileSync('docs/bench.md', page(rows));
}

function line(r) {
  return `${r.name.padEnd(16)} n ${String(r.n).padStart(7)}  ${r.value.toFixed(1)} ${r.unit}  floor ${r.floor.toFixed(1)}  ratio ${r.ratio.toFixed(2)}  goal ${r.goal}  ${r.holds ? 'holds' : 'does not hold'}`;
}

/** The page of figures: rows of this run with today's date; rows of benchmarks that did not run now stay with the date of theirs. */
function page(measured) {
  const today = new Date().toISOString().slice(0, 10);
  const ran = new Set(measured.map(r => r.name));
  const known = existsSync('docs/bench.md') ? readFileSync('docs/bench.md', 'utf8') : '';
  const kept = known
    .split('\n')
    .filter(l => /^\| [a-z]+\.[a-z]+ \|/.test(l) && !ran.has(l.split(' | ')[0].slice(2)));
  const now = measured.map(
    r =>
      `| ${r.name} | ${r.n} | ${r.value.toFixed(1)} ${r.unit} | ${r.floor.toFixed(1)} ${r.unit} | ${r.ratio.toFixed(2)} | ${r.goal} | ${r.holds ? 'yes' : 'no'} | ${today} |`,
  );
  const order = Object.keys(BENCHES);
  const nameOf = l => order.indexOf(l.split(' | ')[0].slice(2));
  const table = [...kept, ...now].sort((a, b) => nameOf(a) - nameOf(b));
  const head = existsSync('docs/bench-notes.md') ? readFileSync('docs/bench-notes.md', 'utf8') : '';
  return `# Benchmarks\n\nMade by \`npm run bench\`, each row on the day it names, ${cpus().length} cores, Node ${process.versions.node}. \`npm run bench -- --only NAME\` measures one anew.\n\n| name | n | value | floor | ratio | goal | holds | day |\n|---|---:|---:|---:|---:|---|---|---|\n${table.join('\n')}\n\n${head}`;
}
