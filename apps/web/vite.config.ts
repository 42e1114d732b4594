import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Packages of this project are read from their sources.
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  build: { target: 'es2023', reportCompressedSize: false },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
