import { z } from 'zod';

/** The code of a parcel in an address. */
export const ParcelNo = z
  .string()
  .regex(/^PA-\d{1,9}$/i, 'is not the code of a parcel')
  .transform(s => Number(s.slice(3)));
