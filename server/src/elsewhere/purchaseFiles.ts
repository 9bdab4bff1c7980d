import type { Address } from '@auk/core';
import { stringify } from 'csv-stringify/sync';
import { XMLBuilder } from 'fast-xml-parser';

/** A purchase order as it goes to a supplier. Money in minor units; `digits` after the point. */
export interface PurchaseFile {
  no: string;
  /** ISO day. */
  day: string;
  currency: string;
  digits: number;
  buyer: { name: string; address: Address };
  supplier: string;
  order: string;
  shipTo: Address;
  lines: readonly { code: string; sku: string; name: string; quantity: number; priceMinor: number | null }[];
}

const amount = (minor: number, digits: number): string => (minor / 10 ** digits).toFixed(digits);

/** The purchase order as a table: a row for each line, with where it goes. */
export function purchaseCsv(p: PurchaseFile): string {
  const to = p.shipTo;
  return stringify(
    [
      [
        'Purchase order',
        'Day',
        'Your code',
        'Our code',
        'Name',
        'Quantity',
        'Price',
        'Currency',
        'Ships to the buyer',
        'Line 1',
        'Line 2',
        'City',
        'Region',
        'Postcode',
        'Country',
        'Order',
      ],
      ...p.lines.map(l => [
        p.no,
        p.day,
        l.code,
        l.sku,
        l.name,
        l.quantity,
        l.priceMinor === null ? '' : amount(l.priceMinor, p.digits),
        p.currency,
        to.name,
        to.line1,
        to.line2,
        to.city,
        to.region,
        to.postcode,
        to.country,
        p.order,
      ]),
    ],
    { escape_formulas: true, record_delimiter: 'windows' },
  );
}

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  format: true,
  suppressEmptyNode: true,
});

/** A postal address in UBL's order of elements. */
const ublAddress = (a: Address) => ({
  'cbc:StreetName': a.line1,
  ...(a.line2 && { 'cbc:AdditionalStreetName': a.line2 }),
  'cbc:CityName': a.city,
  'cbc:PostalZone': a.postcode,
  ...(a.region && { 'cbc:CountrySubentity': a.region }),
  'cac:Country': { 'cbc:IdentificationCode': a.country },
});
const ublParty = (name: string, address?: Address) => ({
  'cac:Party': {
    'cac:PartyName': { 'cbc:Name': name },
    ...(address && { 'cac:PostalAddress': ublAddress(address) }),
  },
});

/** The purchase order as an Order of the Universal Business Language 2.1 (OASIS): the elements that it must have, and where it is delivered. */
export function purchaseUbl(p: PurchaseFile): string {
  const money = (minor: number) => ({ '@currencyID': p.currency, '#text': amount(minor, p.digits) });
  const priced = p.lines.every(l => l.priceMinor !== null);
  const total = p.lines.reduce((sum, l) => sum + (l.priceMinor ?? 0) * l.quantity, 0);
  return `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({
    Order: {
      '@xmlns': 'urn:oasis:names:specification:ubl:schema:xsd:Order-2',
      '@xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
      '@xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
      'cbc:UBLVersionID': '2.1',
      'cbc:ID': p.no,
      'cbc:IssueDate': p.day,
      'cbc:Note': 'Ships to the buyer. No prices in the parcel, please.',
      'cbc:DocumentCurrencyCode': p.currency,
      'cbc:CustomerReference': p.order,
      'cac:BuyerCustomerParty': ublParty(p.buyer.name, p.buyer.address),
      'cac:SellerSupplierParty': ublParty(p.supplier),
      'cac:Delivery': {
        'cac:DeliveryAddress': ublAddress(p.shipTo),
        'cac:DeliveryParty': { 'cac:PartyName': { 'cbc:Name': p.shipTo.name } },
      },
      ...(priced && { 'cac:AnticipatedMonetaryTotal': { 'cbc:PayableAmount': money(total) } }),
      'cac:OrderLine': p.lines.map((l, i) => ({
        'cac:LineItem': {
          'cbc:ID': String(i + 1),
          'cbc:Quantity': { '@unitCode': 'C62', '#text': String(l.quantity) },
          ...(l.priceMinor !== null && {
            'cbc:LineExtensionAmount': money(l.priceMinor * l.quantity),
            'cac:Price': { 'cbc:PriceAmount': money(l.priceMinor) },
          }),
          'cac:Item': {
            'cbc:Name': l.name,
            'cac:BuyersItemIdentification': { 'cbc:ID': l.sku },
            'cac:SellersItemIdentification': { 'cbc:ID': l.code },
          },
        },
      })),
    },
  })}`;
}
