/** Writes a figure to four significant places, with its unit after a no-break space. */
export function figure(v: number | null | undefined, unit = ''): string {
  if (v === null || v === undefined || !Number.isFinite(v)) return '–';
  const text = String(Number(v.toPrecision(4)));
  return unit ? `${text}\u00a0${unit}` : text;
}

/** Reads a number as people type it: a comma is a decimal point. Null when empty, undefined when it is none. */
export function parseFigure(text: string): number | null | undefined {
  const t = text.trim().replace(',', '.');
  if (t === '') return null;
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(t) ? Number(t) : undefined;
}

export const money = (v: number | null | undefined, currency: string) =>
  v === null || v === undefined ? '–' : `${v < 0 ? '−' : ''}${currency}\u00a0${Math.abs(v).toFixed(2)}`;
