import { describe, expect, it } from 'vitest';
import { kept, shown } from './units';

const inch = { unit: 'in', per: 25.4 };

describe('units of a practice', () => {
  it('show what is kept and keep what is typed', () => {
    expect(shown(1066.8, inch)).toBe(42);
    expect(kept(42, inch)).toBe(1066.8);
    expect(shown(450)).toBe(450);
  });
  it('come back the same after being shown and typed', () => {
    for (const v of [0.25, 12, 18.5, 42, 120]) expect(shown(kept(v, inch), inch)).toBe(v);
  });
});
