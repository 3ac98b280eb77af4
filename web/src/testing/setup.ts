import { configure } from '@testing-library/react';

// Bounds for a busy machine; nothing is measured with them.
configure({ asyncUtilTimeout: 15_000 });
