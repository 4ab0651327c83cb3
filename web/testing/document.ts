/** Test set-up: a document for components, with what jsdom lacks; emptied after each test. */
import { cleanup } from '@testing-library/react';
import { afterEach } from 'vitest';

globalThis.ResizeObserver ??= class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
};
afterEach(cleanup);
