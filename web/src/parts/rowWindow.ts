import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useState, type RefObject } from 'react';

// Up to so many rows a table is drawn whole.
const whole = 80;
const rowHeight = 38;
const beyond = 12; // rows drawn above and below what is seen

/** Which rows of a long table are drawn, and the room that the others take. Printed it is drawn whole. */
export function useRowWindow(count: number, body: RefObject<HTMLTableSectionElement | null>) {
  const [top, setTop] = useState(0);
  const [printed, setPrinted] = useState(false);
  const on = count > whole && !printed;
  useLayoutEffect(() => {
    if (on && body.current) setTop(body.current.getBoundingClientRect().top + window.scrollY);
  }, [on, body]);
  useEffect(() => {
    const before = () => setPrinted(true);
    const after = () => setPrinted(false);
    window.addEventListener('beforeprint', before);
    window.addEventListener('afterprint', after);
    return () => {
      window.removeEventListener('beforeprint', before);
      window.removeEventListener('afterprint', after);
    };
  }, []);
  const rows = useWindowVirtualizer({ count, enabled: on, estimateSize: () => rowHeight, overscan: beyond, scrollMargin: top });
  const drawn = rows.getVirtualItems();
  if (!on) return { drawn: Array.from({ length: count }, (_, i) => i), above: 0, below: 0, reveal: () => {}, measure: undefined };
  return {
    drawn: drawn.map((d) => d.index),
    above: drawn.length ? drawn[0].start - top : 0,
    below: drawn.length ? rows.getTotalSize() - (drawn[drawn.length - 1].end - top) : rows.getTotalSize(),
    reveal: (row: number) => rows.scrollToIndex(row),
    measure: rows.measureElement,
  };
}
