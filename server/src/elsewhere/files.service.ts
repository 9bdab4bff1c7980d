import { type Address, minorDigits } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { purchaseLines, purchaseToBuyer } from './elsewhere.queries.js';
import { type PurchaseFile, purchaseCsv, purchaseUbl } from './purchaseFiles.js';

/** Purchase orders that ship to a buyer, as files. */
@Injectable()
export class PurchaseFiles {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  csv = async (no: number): Promise<string> => purchaseCsv(await this.file(no));
  ubl = async (no: number): Promise<string> => purchaseUbl(await this.file(no));

  private async file(no: number): Promise<PurchaseFile> {
    const found = await purchaseToBuyer(this.db, no);
    if (!found) throw new NotHere(`A purchase order PO-${no} that ships to a buyer`);
    const { currency } = await this.house.warehouse(this.db);
    const address = await this.house.sender(this.db);
    const lines = await purchaseLines(this.db, found.id);
    return {
      no: `PO-${no}`,
      day: await this.house.today(this.db, found.createdAt),
      currency,
      digits: minorDigits(currency),
      buyer: { name: address.name, address },
      supplier: found.supplier,
      order: found.channelNumber,
      shipTo: fromJson<Address>(found.shipTo),
      lines: lines.map(l => ({ ...l, code: l.code ?? l.sku })),
    };
  }
}
