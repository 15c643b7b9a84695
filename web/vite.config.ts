import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig, type Plugin } from 'vite'

// A gzip copy beside each text file, which the server sends as it is.
function packed(): Plugin {
  return {
    name: 'packed',
    apply: 'build',
    // After all others: what they still change would be missing in the copies.
    enforce: 'post',
    generateBundle: {
      order: 'post',
      handler(_, bundle) {
        for (const [name, file] of Object.entries(bundle)) {
          if (!/\.(js|css|html|svg)$/.test(name)) continue
          const source = file.type === 'chunk' ? file.code : file.source
          this.emitFile({ type: 'asset', fileName: `${name}.gz`, source: gzipSync(source, { level: 9 }) })
        }
      },
    },
  }
}

// What works while the server is away, with the names of all files of this build.
function offline(): Plugin {
  return {
    name: 'offline',
    apply: 'build',
    generateBundle(_, bundle) {
      const files = [
        '/',
        '/theme.js',
        '/icon.svg',
        ...Object.keys(bundle)
          .filter((name) => /\.(js|css|woff2)$/.test(name))
          .map((name) => `/${name}`),
      ]
      const version = createHash('sha256').update(files.sort().join()).digest('hex').slice(0, 12)
      const worker = readFileSync(new URL('offline/worker.js', import.meta.url), 'utf8')
      this.emitFile({ type: 'asset', fileName: 'sw.js', source: worker.replace('__SHELL__', JSON.stringify({ version, files })) })
    },
  }
}

export default defineConfig({
  plugins: [vue(), tailwindcss(), offline(), packed()],
  build: { target: 'es2022', modulePreload: { polyfill: false }, assetsInlineLimit: 0 },
  server: { proxy: { '/api': 'http://127.0.0.1:7373' } },
})
