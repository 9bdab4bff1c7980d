/** Makes a text harmless inside LIKE. */
export const escapeLike = (text: string): string => text.replace(/[\\%_]/g, c => `\\${c}`);
