declare module 'edifact/reader.js' {
  export default class Reader {
    parse(document: string): { name: string; elements: string[][] }[];
  }
}
declare module 'edifact/tracker.js' {
  export default class Tracker {
    constructor(table: unknown);
    accept(segment: string): void;
  }
}
