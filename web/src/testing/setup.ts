import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';
import { ownedBy } from '../api/own';

// Bounds for a busy machine; nothing is measured with them.
configure({ asyncUtilTimeout: 15_000 });

// The files of a worker share one page and one set of modules (isolate is off:
// loading both anew took most of the run). Each test leaves the page empty.
afterEach(() => {
  cleanup();
  sessionStorage.clear();
  localStorage.clear();
  ownedBy('');
});
