import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

/** What the built page may load and run: its own files, and nothing else. */
const policy = [
  "default-src 'self'",
  "script-src 'self'",
  // The interface and the text editor write their styles as the page runs.
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "worker-src 'self'",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
].join('; ')

const contentSecurityPolicy: Plugin = {
  name: 'content-security-policy',
  apply: 'build',
  transformIndexHtml: () => [
    {
      tag: 'meta',
      attrs: { 'http-equiv': 'Content-Security-Policy', content: policy },
      injectTo: 'head-prepend',
    },
  ],
}

export default defineConfig({
  plugins: [react(), contentSecurityPolicy],
  base: './',
  worker: { format: 'es' },
  build: { chunkSizeWarningLimit: 900 },
  // The levels are in the folder beside this one.
  server: { fs: { allow: ['..', '../../dist', '../../schemas', '../../node_modules'] } },
})
