import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId } from '../database/db.js';
import { pictureType } from '../http/pictureType.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { PictureFile } from './pictureFile.entity.js';
import { noteProduct } from './productHistory.js';
import { setPicture } from './products.queries.js';
import { ProductsService } from './products.service.js';

/** Largest picture that is taken. */
const MOST_PICTURE = 2_000_000;

/** Pictures of products that people bring. */
@Injectable()
export class Pictures {
  constructor(
    private readonly db: Db,
    private readonly products: ProductsService,
  ) {}

  /** Keeps a picture (PNG, JPEG or WebP, known by its bytes) under a name of our own. */
  keep(sku: string, bytes: Buffer, doer: Doer): Promise<void> {
    if (bytes.length > MOST_PICTURE)
      throw new Forbidden(
        `The picture has ${(bytes.length / 1e6).toFixed(1)} MB; 2 MB are taken.`,
        'Make it smaller.',
      );
    const type = pictureType(bytes);
    if (!type)
      throw new Forbidden(
        'That file is no PNG, JPEG or WebP picture.',
        'Save it as one of these and drop it again.',
      );
    return this.db.tx(doer, async tx => {
      const product = await this.products.locked(tx, sku);
      const id = newId();
      await tx.insert(PictureFile, [
        { id, type, bytes: bytes as unknown as string, at: tx.at, personId: tx.personId },
      ]);
      await setPicture(tx, `up:${id}`, product.id);
      await noteProduct(tx, product.id, 'A picture was given.');
      await tx.tell('catalog', sku);
    });
  }

  async file(id: string): Promise<{ type: string; bytes: Buffer }> {
    const file = await this.db
      .of(PictureFile)
      .findOne({ where: { id }, select: { type: true, bytes: true } });
    if (!file) throw new NotHere('That picture');
    return file;
  }
}
