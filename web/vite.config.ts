import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'

/** What the server puts a page's own nonce in place of. */
const NONCE_PLACE = '__NONCE__'

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [vue(), vuetify({ autoImport: true })],
  worker: { format: 'es' },
  // Put in place by the server, anew for every page.
  html: { cspNonce: NONCE_PLACE },
  build: {
    target: 'es2023',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    // What most places need lies in two files: a page made of forty small ones is drawn a fifth later.
    rollupOptions: { output: { advancedChunks: { groups: [{ name: 'libraries', test: /node_modules/, minShareCount: 8 }, { name: 'shared', test: /^(?!.*node_modules)/, minShareCount: 5 }] } } },
  },
})
