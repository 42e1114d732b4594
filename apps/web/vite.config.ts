import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      registerType: 'autoUpdate',
      injectRegister: 'script-defer',
      manifest: {
        name: 'Drive Keep',
        short_name: 'Drive Keep',
        description: 'Keeps the parameter sets of a plant’s installed drives',
        theme_color: '#6d2a5f',
        background_color: '#f5f0e6',
        display: 'standalone',
        icons: [{ src: 'mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        runtimeCaching: [
          {
            // What a technician needs at a cabinet without a network: who one is, the position, its dictionary.
            urlPattern: /\/api\/(session|dictionaries\/[^/?]+|positions\/[^/?]+(\/history)?)$/,
            handler: 'NetworkFirst',
            options: { cacheName: 'taken-along', networkTimeoutSeconds: 4, expiration: { maxEntries: 300 } },
          },
        ],
      },
    }),
  ],
  // Packages of this project are read from their sources.
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  build: { target: 'es2023', reportCompressedSize: false },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
