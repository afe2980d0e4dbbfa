import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react()],
  base: './',
  // One page, loaded from disk: splitting it would gain nothing.
  build: { chunkSizeWarningLimit: 800 },
  // The levels are in the folder beside this one.
  server: { fs: { allow: ['..', '../../dist', '../../node_modules'] } },
})
