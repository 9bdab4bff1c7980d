/** So many pictures without it, and a code that comes again counts again. */
const OUT_OF_SIGHT = 4;

/** What a camera sees, picture by picture: a code counts when it comes into sight, and again after it was out of sight. */
export class Sight {
  private readonly missed = new Map<string, number>();

  /** The codes of the next picture; gives those that have just come into sight. */
  see(codes: readonly string[]): string[] {
    const come = [...new Set(codes)].filter(c => !this.missed.has(c));
    for (const code of codes) this.missed.set(code, 0);
    for (const [code, n] of this.missed)
      if (!codes.includes(code)) {
        if (n + 1 >= OUT_OF_SIGHT) this.missed.delete(code);
        else this.missed.set(code, n + 1);
      }
    return come;
  }
}
