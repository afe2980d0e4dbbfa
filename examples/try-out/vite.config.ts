import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react()],
  base: './',
  // The levels are in the folder beside this one.
  server: { fs: { allow: ['..', '../../dist', '../../node_modules'] } },
})
