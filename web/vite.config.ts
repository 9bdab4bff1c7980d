import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: { conditions: ['@auk/source', 'module', 'browser', 'import', 'default'] },
  build: { chunkSizeWarningLimit: 900 },
});
