/** Texts by name that a browser keeps. One that is full or keeps nothing stops no work: what it would not take lives as long as the page. */
class Kept {
  private readonly here = new Map<string, string>();

  constructor(private readonly store: () => Storage) {}

  get(name: string): string | null {
    return this.here.get(name) ?? this.tried(s => s.getItem(name)) ?? null;
  }

  /** True when it outlives the page. */
  set(name: string, text: string): boolean {
    const taken = this.tried(s => {
      s.setItem(name, text);
      return true;
    });
    if (taken) this.here.delete(name);
    else this.here.set(name, text);
    return taken === true;
  }

  drop(name: string): void {
    this.here.delete(name);
    this.tried(s => s.removeItem(name));
  }

  names(): string[] {
    return [...new Set([...(this.tried(s => Object.keys(s)) ?? []), ...this.here.keys()])];
  }

  clear(): void {
    this.here.clear();
    this.tried(s => s.clear());
  }

  private tried<T>(work: (store: Storage) => T): T | null {
    try {
      return work(this.store());
    } catch {
      return null;
    }
  }
}

/** What the device keeps for every page, and what a tab keeps until it is closed. */
export const onDevice = new Kept(() => localStorage);
export const inTab = new Kept(() => sessionStorage);
