import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

// Assets never change under their name: they are compressed once, as well as it goes, and served so.
function compressed(folder: string): Plugin {
  return {
    name: 'compressed-assets',
    closeBundle() {
      for (const name of readdirSync(folder).filter((one) => /\.(js|css)$/.test(one))) {
        writeFileSync(join(folder, `${name}.br`), brotliCompressSync(readFileSync(join(folder, name))));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), compressed('dist/assets')],
  build: { outDir: 'dist', assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
