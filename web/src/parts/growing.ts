import { useEffect, useState } from 'react';

const first = 40;
const more = 60;

/**
 * How many rows of a long table are drawn: those that are seen at once, then more between
 * whatever else is to do, until all are there. A page that is printed has all of them.
 */
export function useGrowing(rows: number): number {
  const [drawn, setDrawn] = useState(first);
  useEffect(() => {
    if (drawn >= rows) return;
    const later = window.setTimeout(() => setDrawn((n) => n + more));
    const all = () => setDrawn(rows);
    window.addEventListener('beforeprint', all);
    return () => {
      window.clearTimeout(later);
      window.removeEventListener('beforeprint', all);
    };
  }, [drawn, rows]);
  return Math.min(drawn, rows);
}
