import { useWindowVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';

export const ROW_HEIGHT = 40;

/** Shorter lists are drawn whole. */
const WHOLE = 80;

const OVERSCAN = 5;

const NOTHING = () => {};

interface Sight {
  items: { index: number }[];
  /** Height of what is above and below the rows that are drawn. */
  top: number;
  bottom: number;
  measure: (element: HTMLElement | null) => void;
  toRow: (index: number) => void;
}

/** How high the rows of each list were when it was left: who comes back stands where they stood. */
const heights = new Map<string, { typical: number | null; each: VirtualItem[] }>();

/** Which rows of a list are in sight of the window. */
export function useSight(name: string, count: number, place: { current: HTMLTableElement | null }): Sight {
  const [above, setAbove] = useState(0);
  const whole = count <= WHOLE;
  /** How high a row is; the first that is measured tells for those that were not in sight yet. */
  const height = useRef<number | null>(heights.get(name)?.typical ?? null);
  const virtual = useWindowVirtualizer({
    count,
    estimateSize: () => height.current ?? ROW_HEIGHT,
    overscan: OVERSCAN,
    scrollMargin: above,
    enabled: !whole,
    initialMeasurementsCache: heights.get(name)?.each ?? [],
    // Told by the browser after it has laid the rows out: asking for a height would make it do so in between.
    measureElement: (_, entry) => {
      const told = entry?.borderBoxSize[0]?.blockSize;
      height.current ??= told ?? null;
      return told ?? height.current ?? ROW_HEIGHT;
    },
  });
  useEffect(
    () => () => {
      heights.set(name, { typical: height.current, each: virtual.measurementsCache });
    },
    [name, virtual],
  );
  // While it scrolls, nothing above the list moves.
  const moving = !whole && virtual.isScrolling;
  useLayoutEffect(() => {
    if (moving) return;
    const now = place.current ? place.current.getBoundingClientRect().top + window.scrollY : 0;
    if (Math.abs(now - above) > 1) setAbove(now);
  });
  const toRow = (index: number) => {
    if (whole) place.current?.querySelector(`[data-index="${index}"]`)?.scrollIntoView({ block: 'nearest' });
    else virtual.scrollToIndex(index, { align: 'auto' });
  };
  if (whole)
    return {
      items: Array.from({ length: count }, (_, index) => ({ index })),
      top: 0,
      bottom: 0,
      measure: NOTHING,
      toRow,
    };
  const items = virtual.getVirtualItems();
  return {
    items,
    top: items[0] ? items[0].start - above : 0,
    bottom: Math.max(0, virtual.getTotalSize() - ((items.at(-1)?.end ?? 0) - above)),
    measure: virtual.measureElement,
    toRow,
  };
}
