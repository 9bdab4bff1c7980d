/** A parcel of a departure as its handover sees it. `held` says why it must not go. */
export interface HandedParcel {
  no: string;
  scanned: boolean;
  held: string | null;
}

/** A scan at the dock with what was answered. `parcel` is the parcel that it named; null where it named none. */
export interface DockScan {
  text: string;
  parcel: string | null;
  refused: boolean;
  says: string;
}

/** How scanning and buying agree: what goes, what was bought and not scanned, what was scanned and must not go, and what was scanned and is not expected, with what was said of it. */
export interface Reconciled<P> {
  goes: P[];
  missing: P[];
  held: P[];
  strange: { what: string; says: string }[];
}

/**
 * Compares what was bought for a departure with what was scanned onto it. Every parcel is in one list; a stranger is named once, with the
 * last thing that was said of it, and is none when it was taken in the end. `scans` are in the order in which they were made.
 */
export function reconcile<P extends HandedParcel>(
  parcels: readonly P[],
  scans: readonly DockScan[],
): Reconciled<P> {
  const last = new Map<string, DockScan>();
  for (const s of scans) {
    const what = s.parcel ?? s.text.trim().toUpperCase();
    last.delete(what);
    last.set(what, s);
  }
  const here = new Set(parcels.filter(p => p.scanned).map(p => p.no));
  return {
    goes: parcels.filter(p => p.scanned && p.held === null),
    held: parcels.filter(p => p.scanned && p.held !== null),
    missing: parcels.filter(p => !p.scanned),
    strange: [...last]
      .filter(([what, s]) => s.refused && !here.has(what))
      .map(([what, s]) => ({ what, says: s.says })),
  };
}
