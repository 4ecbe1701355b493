import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** What the phone installs: its name and signs. The server gives it out like any other file. */
const manifest = {
  id: '/field',
  name: 'Iron Relay',
  short_name: 'Iron Relay',
  description: 'A technician’s day, with and without a signal',
  start_url: '/field',
  scope: '/',
  display: 'standalone' as const,
  background_color: '#f6f2ea',
  theme_color: '#23292e',
  icons: [
    { src: '/icons/mark-192.png', sizes: '192x192', type: 'image/png' },
    { src: '/icons/mark-512.png', sizes: '512x512', type: 'image/png' },
    {
      src: '/icons/mark-maskable-512.png',
      sizes: '512x512',
      type: 'image/png',
      purpose: 'maskable' as const,
    },
  ],
};

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/worker',
      filename: 'sw.ts',
      injectRegister: false,
      manifest,
      injectManifest: {
        globPatterns: [
          'index.html',
          'assets/*.{js,css,wasm}',
          'assets/*-latin-wght-*.woff2',
          'mark.svg',
          'icons/*-192.png',
        ],
        maximumFileSizeToCacheInBytes: 4_000_000,
        // The page is taken from where the server gives it out with its rules for scripts, not from the bare file.
        manifestTransforms: [
          (entries) => ({
            manifest: entries.map((entry) =>
              entry.url === 'index.html' ? { ...entry, url: '/field' } : entry,
            ),
            warnings: [],
          }),
        ],
      },
    }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    // What every page begins with comes as one file: forty small ones cost forty answers before anything is shown.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: 'base', tags: ['$initial'] }] } } },
  },
  server: { proxy: { '/api': process.env.RELAY_API ?? 'http://127.0.0.1:8040' } },
});
