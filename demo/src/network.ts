/** The network of fulfillment centers of the demo, and what lies there, by the house's own codes. */
export const NETWORK = { name: 'Fernway Centers', key: 'demo-key-of-fernway' };
export const CENTER_STOCK: Readonly<Record<string, number>> = {
  'VEIL-RND': 40,
  'GLV-GT-M': 60,
  'BOOK-1ST': 25,
  'JAR-HEX-12': 30,
};
