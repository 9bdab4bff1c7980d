import { ProductRow } from '@auk/contract';
import { FilePick } from '../../parts/FilePick.js';
import { Picture } from '../../parts/picture.js';

interface GivePictureProps {
  product: ProductRow;
  can: boolean;
  give: (file: File) => void;
}

/** The product's picture; pressed, another one is given. */
export function GivePicture({ product, can: may, give }: GivePictureProps) {
  const picture = <Picture name={product.picture} size={72} />;
  if (!may) return picture;
  return (
    <FilePick label="Picture" accept="image/png,image/jpeg,image/webp" onFile={give}>
      {picture}
    </FilePick>
  );
}
