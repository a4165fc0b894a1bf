import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** The two fonts of the first screen are asked for with the page, not once its styles were read. */
const preloadFonts: Plugin = {
  name: 'preload-fonts',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle = {} }) =>
      Object.keys(bundle)
        .filter((file) => /-latin-wght-normal-.*\.woff2$/.test(file))
        .map((file) => ({
          tag: 'link',
          attrs: {
            rel: 'preload',
            as: 'font',
            type: 'font/woff2',
            crossorigin: '',
            href: `/${file}`,
          },
        })),
  },
};

export default defineConfig({
  plugins: [react(), tailwind(), preloadFonts],
  build: {
    outDir: 'dist',
    manifest: true,
    chunkSizeWarningLimit: 700,
    // All that any page needs is one file.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [{ name: 'first', tags: ['$initial'], includeDependenciesRecursively: false }],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
