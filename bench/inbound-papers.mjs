// inbound.papers: all papers of a shipment of 500 boxes (labels with SSCC, those of 25 pallets, packing list, delivery note, the despatch advice in four forms),
// against its bars alone; 10,000 unit labels apart, against theirs.
import { despatchEdifact, seeded, ssccOf } from '@auk/core';
import { despatchCsv, despatchJson, despatchUbl } from '@auk/server/inbound/despatchFiles';
import { drawBoxLabels, drawPalletLabels, drawShipmentList } from '@auk/server/printing/inboundPapers';
import { code128Widths, gs1Widths } from '@auk/server/printing/paper';
import { drawTags } from '@auk/server/printing/tags';

const GOAL_MS = 10_000;
const BOXES = 500;
const ON_PALLET = 20;
const LABELS = 10_000;
const address = name => ({
  name,
  company: '',
  line1: '9 Dock Street',
  line2: '',
  city: 'Columbus',
  region: 'OH',
  postcode: '43215',
  country: 'US',
  phone: '',
});

function shipment() {
  const random = seeded(77);
  const boxes = Array.from({ length: BOXES }, (_, n) => ({
    sscc: ssccOf('952000112', n).value,
    box: 'BX-4',
    weightMg: 12_000_000,
    heavy: n % 7 === 0,
    tracking: `NF10001${String(n).padStart(3, '0')}`,
    contents: Array.from({ length: 1 + Math.floor(random() * 4) }, (_, i) => ({
      sku: `SKU-${n}-${i}`,
      name: `Product ${n} ${i}`,
      gtin: null,
      units: 1 + Math.floor(random() * 40),
      lot: i % 2 ? `L-${n}` : null,
      expiry: i % 2 ? '2027-05-31' : null,
    })),
  }));
  return {
    no: 'IN-77',
    name: 'Quiet Harbor',
    network: 'Fernway Centers',
    center: 'Columbus',
    carrier: 'Fernway Pick-up',
    prefixLength: 9,
    from: address('Skepside Bee Supply'),
    to: address('Center Columbus'),
    boxes,
    pallets: Array.from({ length: BOXES / ON_PALLET }, (_, i) => ({
      sscc: ssccOf('952000112', BOXES + i).value,
      boxes: ON_PALLET,
      height: 12_000,
      weightMg: 200_000_000,
      tracking: null,
    })),
  };
}

async function timed(work) {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

export async function* inboundPapers() {
  const s = shipment();
  const despatch = {
    ...s,
    day: '2026-11-25',
    leaves: '2026-11-26',
    arrives: null,
    from: { name: s.from.name, address: s.from },
    to: { name: s.to.name, address: s.to },
    pallets: s.pallets.map((p, i) => ({
      ...p,
      boxes: s.boxes.slice(i * ON_PALLET, (i + 1) * ON_PALLET).map(b => b.sscc),
    })),
  };
  const by = { sender: '952000112', receiver: 'FERNWAY', reference: 'IN77', prepared: '261125:1307' };
  const value = await timed(async () => {
    await drawBoxLabels(s, new Map());
    await drawPalletLabels(s);
    await drawShipmentList(s, 'packing list');
    await drawShipmentList(s, 'delivery note');
    for (const write of [despatchUbl, despatchCsv, despatchJson]) write(despatch);
    despatchEdifact(despatch, by);
  });
  const floor = await timed(async () => {
    for (const b of [...s.boxes, ...s.pallets]) {
      gs1Widths(`(00)${b.sscc}`);
      if (b.tracking) code128Widths(b.tracking);
    }
  });
  yield row(`${BOXES} boxes, all papers`, value, floor, `<= ${GOAL_MS} ms`, value <= GOAL_MS);
  const tags = Array.from({ length: LABELS }, (_, n) => ({
    code: String(2_000_000_000_000 + (n % 60)),
    words: `Product ${n % 60}`,
    small: `SKU-${n % 60}`,
  }));
  const labels = await timed(() => drawTags(tags, 'sheet'));
  const bars = await timed(async () => {
    for (const t of tags) code128Widths(t.code);
  });
  yield row(`${LABELS} unit labels`, labels, bars, 'told', true);
}

const row = (n, value, floor, goal, holds) => ({
  n,
  value,
  unit: 'ms',
  floor,
  ratio: value / floor,
  goal,
  holds,
});
