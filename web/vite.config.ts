import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: { conditions: ['@auk/source', 'module', 'browser', 'import', 'default'] },
  // Plotly's own source asks for the window by this name.
  define: { global: 'globalThis' },
  build: { chunkSizeWarningLimit: 900 },
});
