import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    // Machines that run the suite are busy, and stand still for half a minute: a test waits for a state, and only
    // gives up when none comes.
    // Two at once: by itself it leaves one core of two idle.
    maxWorkers: 2,
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Pure logic needs no page; what is drawn (.tsx) is tested in one.
    projects: [
      { extends: true, test: { name: 'logic', include: ['tests/**/*.test.ts'], environment: 'node' } },
      {
        extends: true,
        test: {
          name: 'parts',
          include: ['tests/**/*.test.tsx'],
          environment: 'jsdom',
          setupFiles: ['tests/page.ts'],
        },
      },
    ],
  },
});
