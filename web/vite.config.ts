import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig(({ command }) => ({
  plugins: [react(), tailwindcss()],
  base: command === "build" ? "/static/" : "/",
  // The content security policy allows no data: fonts.
  // The server reads of the manifest which code a page will ask for, and says so with the page.
  build: { assetsInlineLimit: 0, manifest: "manifest.json" },
  server: { host: "127.0.0.1", port: 5173, proxy: { "/api": "http://127.0.0.1:8321" } },
  test: {
    // A busy machine is no failure: the limits only end what hangs.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // One process with warm modules; what tests leave behind is cleared by their set-up.
    isolate: false,
    pool: "threads",
    projects: [
      {
        extends: true,
        test: {
          name: "units",
          environment: "node",
          include: ["src/**/*.test.ts"],
          setupFiles: "src/testing/device.test.helper.ts",
        },
      },
      {
        extends: true,
        test: {
          name: "parts",
          environment: "jsdom",
          include: ["src/**/*.test.tsx"],
          setupFiles: ["src/testing/setup.test.helper.ts", "src/testing/device.test.helper.ts"],
        },
      },
    ],
  },
}));
