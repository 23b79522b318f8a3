import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig(({ command }) => ({
  plugins: [react(), tailwindcss()],
  base: command === "build" ? "/static/" : "/",
  // The content security policy allows no data: fonts.
  build: { assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", port: 5173, proxy: { "/api": "http://127.0.0.1:8321" } },
  test: { environment: "jsdom", include: ["src/**/*.test.{ts,tsx}"] },
}));
