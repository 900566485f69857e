import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // The Content-Security-Policy lets fonts and pictures come from files only.
  build: { assetsInlineLimit: 0, target: 'es2022', chunkSizeWarningLimit: 800 },
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'], testTimeout: 60_000 },
});
