import { gzipSync } from 'node:zlib'
import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig, type Plugin } from 'vite'

// A gzip copy beside each text file, which the server sends as it is.
function packed(): Plugin {
  return {
    name: 'packed',
    apply: 'build',
    generateBundle(_, bundle) {
      for (const [name, file] of Object.entries(bundle)) {
        if (!/\.(js|css|html|svg)$/.test(name)) continue
        const source = file.type === 'chunk' ? file.code : file.source
        this.emitFile({ type: 'asset', fileName: `${name}.gz`, source: gzipSync(source, { level: 9 }) })
      }
    },
  }
}

export default defineConfig({
  plugins: [vue(), tailwindcss(), packed()],
  build: { target: 'es2022', modulePreload: { polyfill: false }, assetsInlineLimit: 0 },
  server: { proxy: { '/api': 'http://127.0.0.1:7373' } },
})
