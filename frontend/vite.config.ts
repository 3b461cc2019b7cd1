import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  plugins: [vue(), vuetify({ autoImport: true })],
  build: {
    outDir: '../src/jade_perch/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 700,
    // what every page needs comes in one piece: thirty small ones cost more than they are
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'house', tags: ['$initial'], priority: 2 },
            { name: 'stations', minShareCount: 3, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8427' }, fs: { allow: ['..'] } },
  test: { environment: 'jsdom', include: ['tests/**/*.test.ts'] },
})
