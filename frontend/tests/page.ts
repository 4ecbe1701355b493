// Before each test of something drawn: a page without a browser, and a server that answers what the test says.

import '@testing-library/jest-dom/vitest';
import { cleanup } from '@testing-library/react';
import { afterEach, vi } from 'vitest';
import { answer } from './server';

vi.stubGlobal('fetch', answer);
// What jsdom leaves out and the interface asks for.
vi.stubGlobal(
  'ResizeObserver',
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
);
window.scrollTo = () => undefined;
Element.prototype.scrollIntoView = () => undefined;
Element.prototype.hasPointerCapture = () => false;

afterEach(cleanup);
