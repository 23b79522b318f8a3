import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { defineConfig } from "vite";

// Built after the page: the worker bears the print of what that is made of.
const print = () =>
  createHash("sha256").update(readFileSync("dist/manifest.json")).digest("hex").slice(0, 12);

// The worker that keeps pages: one file beside the page's, under a name of its own that stays.
export default defineConfig({
  define: { BUILD: JSON.stringify(print()) },
  build: {
    emptyOutDir: false,
    rollupOptions: { input: "src/sw.ts", output: { entryFileNames: "sw.js", format: "iife" } },
  },
});
