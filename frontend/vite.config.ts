import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'

/** Asks a browser to read what comes first while it comes, not piece by piece as it is called. */
const AT_ONCE = '//# allFunctionsCalledOnLoad'

/** What is built is packed once, by whoever builds; the application only picks the one a browser takes. */
const packed: Plugin = {
  name: 'packed',
  writeBundle ({ dir = '' }, bundle) {
    for (const one of Object.values(bundle).filter(one => /\.(js|css)$/.test(one.fileName))) {
      const file = join(dir, one.fileName)
      const isFirst = one.type === 'chunk' && one.isEntry
      if (isFirst) writeFileSync(file, `${AT_ONCE}\n${readFileSync(file, 'utf-8')}`)
      const content = readFileSync(file)
      writeFileSync(`${file}.gz`, gzipSync(content, { level: 9 }))
      writeFileSync(`${file}.br`, brotliCompressSync(content))
    }
  },
}

export default defineConfig({
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  plugins: [vue(), vuetify({ autoImport: true }), packed],
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
            // fields, lists and what drawings are made with: the first sight needs none of it
            { name: 'controls', test: /node_modules/, minShareCount: 3, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8427' }, fs: { allow: ['..'] } },
  test: { environment: 'jsdom', include: ['tests/**/*.test.ts'] },
})
