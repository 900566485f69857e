import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // `npm run dev` shows changes at once; the rest is answered by what ./start runs.
  server: {
    proxy: Object.fromEntries(
      ['/api', '/openapi', '/measure', '/beacon.js', '/for', '/results'].map((p) => [p, 'http://localhost:5080']),
    ),
  },
  // The Content-Security-Policy lets fonts and pictures come from files only.
  build: {
    rollupOptions: { input: ['index.html', 'results.html'] },
    assetsInlineLimit: 0,
    target: 'es2022',
    chunkSizeWarningLimit: 800,
  },
  // A browser's document takes seconds to set up; what draws nothing does without.
  test: {
    testTimeout: 120_000,
    projects: [
      { extends: true, test: { name: 'rules', include: ['src/**/*.test.ts'], environment: 'node', isolate: false } },
      {
        extends: true,
        test: { name: 'screens', include: ['src/**/*.test.tsx'], environment: 'jsdom', pool: 'vmThreads' },
      },
    ],
  },
});
