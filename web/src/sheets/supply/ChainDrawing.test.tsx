import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { serve, show } from '../../testing/fixture';
import { ChainDrawing } from './ChainDrawing';
import { freshEnclosure } from './enclosure';

const box = (e: Partial<Of<'Enclosure'>>) => freshEnclosure({ id: 'a', kind: 'board', name: 'Board', ...e });
const node = (n: Partial<Of<'ChainNode'>>): Of<'ChainNode'> => ({
  id: 'a',
  joint: 'never',
  jointName: '',
  jointSays: '',
  mayOpen: '',
  openSays: '',
  wires: 0,
  zOhm: null,
  faultKA: null,
  summary: '',
  assumed: false,
  verdict: 'pass',
  steps: [],
  ...n,
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('the chain', () => {
  it('says in words what it draws, and opens with the keyboard', () => {
    serve();
    const picked = vi.fn();
    const chain = {
      enclosures: [box({ id: 'h', name: 'Head', owner: 'network operator', sealed: 'yes' }), box({ id: 'b', from: 'h', joined: true })],
    };
    const report: Of<'ChainReport'> = {
      nodes: [node({ id: 'h', joint: 'operator' }), node({ id: 'b', verdict: 'fail' })],
      jumpers: [],
      checks: [],
      kinds: [],
      verdict: 'fail',
      rule: '',
      earth: 'earth',
      unit: 'mm²',
    };
    show(<ChainDrawing chain={chain} report={report} onSelect={picked} unit="mm²" />);
    expect(screen.getByText('joined: must not be')).toBeTruthy();
    expect(screen.getByText('operator’s')).toBeTruthy();
    expect(screen.getByLabelText('sealed')).toBeTruthy();
    fireEvent.keyDown(screen.getByText('Board').closest('[role=button]') as Element, { key: 'Enter' });
    expect(picked).toHaveBeenCalledWith('b');
  });
});
