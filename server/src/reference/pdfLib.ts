import { whenNeeded } from './whenNeeded.js';

/** The library that puts pages of several documents together. */
export const pdfLib = whenNeeded<typeof import('pdf-lib')>('pdf-lib');
