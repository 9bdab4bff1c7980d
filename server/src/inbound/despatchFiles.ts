import type { Address, Despatch } from '@auk/core';
import { stringify } from 'csv-stringify/sync';
import { XMLBuilder } from 'fast-xml-parser';

const kilograms = (mg: number): string => (mg / 1_000_000).toFixed(3);

/** The despatch advice as a table: a row for each product and lot of each box. */
export const despatchCsv = (d: Despatch): string =>
  stringify(
    [
      [
        'Shipment',
        'Leaves',
        'Center',
        'Pallet',
        'SSCC',
        'Weight kg',
        'Code',
        'GTIN',
        'Name',
        'Units',
        'Lot',
        'Expiry',
      ],
      ...d.boxes.flatMap(b =>
        b.contents.map(l => [
          d.no,
          d.leaves,
          d.to.name,
          d.pallets.find(p => p.boxes.includes(b.sscc))?.sscc ?? '',
          b.sscc,
          kilograms(b.weightMg),
          l.sku,
          l.gtin ?? '',
          l.name,
          l.units,
          l.lot ?? '',
          l.expiry ?? '',
        ]),
      ),
    ],
    { escape_formulas: true, record_delimiter: 'windows' },
  );

/** The same as JSON, with the names of the advice. */
export const despatchJson = (d: Despatch): string => `${JSON.stringify(d, null, 2)}\n`;

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  format: true,
  suppressEmptyNode: true,
});

const party = ({ name, address: a }: { name: string; address: Address }) => ({
  'cac:Party': {
    'cac:PartyName': { 'cbc:Name': name },
    'cac:PostalAddress': {
      'cbc:StreetName': a.line1,
      ...(a.line2 && { 'cbc:AdditionalStreetName': a.line2 }),
      'cbc:CityName': a.city,
      'cbc:PostalZone': a.postcode,
      ...(a.region && { 'cbc:CountrySubentity': a.region }),
      'cac:Country': { 'cbc:IdentificationCode': a.country },
    },
  },
});

type Line = Despatch['boxes'][number]['contents'][number];
const despatchLine = (
  no: number,
  units: number,
  l: Pick<Line, 'name' | 'sku' | 'gtin' | 'lot' | 'expiry'>,
) => ({
  'cbc:ID': String(no),
  'cbc:DeliveredQuantity': { '@unitCode': 'C62', '#text': String(units) },
  'cac:OrderLineReference': { 'cbc:LineID': String(no) },
  'cac:Item': {
    'cbc:Name': l.name,
    'cac:SellersItemIdentification': { 'cbc:ID': l.sku },
    ...(l.gtin && {
      'cac:StandardItemIdentification': { 'cbc:ID': { '@schemeID': '0160', '#text': l.gtin } },
    }),
    ...((l.lot || l.expiry) && {
      'cac:ItemInstance': {
        'cac:LotIdentification': {
          ...(l.lot && { 'cbc:LotNumberID': l.lot }),
          ...(l.expiry && { 'cbc:ExpiryDate': l.expiry }),
        },
      },
    }),
  },
});

const shippingUnit = (sscc: string) => ({ '@schemeID': 'SSCC', '#text': sscc });
const grossWeight = (mg: number) => ({
  'cbc:AttributeID': 'AAB',
  'cbc:Measure': { '@unitCode': 'KGM', '#text': kilograms(mg) },
});

/** The despatch advice of the Universal Business Language 2.1 (OASIS): the elements that it must have, and each box with what is in it. */
export function despatchUbl(d: Despatch): string {
  const all = d.boxes.flatMap(b => b.contents);
  const numbered = new Map(all.map((l, i) => [l, i + 1]));
  const weightMg = d.boxes.reduce((n, b) => n + b.weightMg, 0);
  return `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({
    DespatchAdvice: {
      '@xmlns': 'urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2',
      '@xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
      '@xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
      'cbc:UBLVersionID': '2.1',
      'cbc:ID': d.no,
      'cbc:IssueDate': d.day,
      'cac:DespatchSupplierParty': party(d.from),
      'cac:DeliveryCustomerParty': party(d.to),
      'cac:Shipment': {
        'cbc:ID': d.no,
        'cbc:GrossWeightMeasure': { '@unitCode': 'KGM', '#text': kilograms(weightMg) },
        'cbc:TotalTransportHandlingUnitQuantity': String(d.boxes.length + d.pallets.length),
        'cac:Delivery': {
          'cac:Despatch': { 'cbc:ActualDespatchDate': d.leaves },
        },
        'cac:TransportHandlingUnit': [
          // A pallet names the packages on it; what is in each stands with the box.
          ...d.pallets.map(p => ({
            'cbc:ID': shippingUnit(p.sscc),
            'cac:ActualPackage': p.boxes.map(sscc => ({ 'cbc:ID': shippingUnit(sscc) })),
            'cac:MeasurementDimension': grossWeight(p.weightMg),
          })),
          ...d.boxes.map(b => ({
            'cbc:ID': shippingUnit(b.sscc),
            'cac:HandlingUnitDespatchLine': b.contents.map(l => despatchLine(numbered.get(l)!, l.units, l)),
            'cac:MeasurementDimension': grossWeight(b.weightMg),
          })),
        ],
      },
      'cac:DespatchLine': all.map(l => despatchLine(numbered.get(l)!, l.units, l)),
    },
  })}`;
}
