// Before each test of something drawn: a page without a browser, and a server that answers what the test says.

import '@testing-library/jest-dom/vitest';
import { cleanup, configure } from '@testing-library/react';
import { afterEach, vi } from 'vitest';
import { answer } from './server';

configure({ asyncUtilTimeout: 20_000 });
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
// Nobody sends anything by itself.
vi.stubGlobal(
  'EventSource',
  class {
    static readonly CLOSED = 2;
    readyState = 1;
    addEventListener() {}
    close() {}
  },
);
// Nobody asked for dark.
vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener() {}, removeEventListener() {} }));
Element.prototype.setPointerCapture ??= () => {};
// Nothing is laid out: long lists draw as much as a screen of this size would show.
Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 600 });
Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 900 });
window.scrollTo = () => undefined;
// A browser answers with a promise: an effect that passes the answer on breaks the page.
Element.prototype.scrollIntoView = () => Promise.resolve() as unknown as undefined;
Element.prototype.hasPointerCapture = () => false;

afterEach(cleanup);
