import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    // What every page begins with comes as one file: forty small ones cost forty answers before anything is shown.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: 'base', tags: ['$initial'] }] } } },
  },
  server: { proxy: { '/api': process.env.RELAY_API ?? 'http://127.0.0.1:8040' } },
});
