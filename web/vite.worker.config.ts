import { defineConfig } from "vite";

// The worker that keeps pages: one file beside the page's, under a name of its own that stays.
export default defineConfig({
  build: {
    emptyOutDir: false,
    rollupOptions: { input: "src/sw.ts", output: { entryFileNames: "sw.js", format: "iife" } },
  },
});
