import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    sourcemap: true,
    chunkSizeWarningLimit: 700,
    rollupOptions: {
      input: { index: 'index.html', take: 'take.html' },
      // in one piece React is smaller, and both applications have it
      output: { codeSplitting: { groups: [{ name: 'react', test: /node_modules\/(?:react|react-dom|scheduler)\// }] } },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:3000' } },
});
