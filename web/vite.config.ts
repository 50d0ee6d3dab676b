import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  // `npm run dev` beside a ./start: pages from here, everything else from there, live bays too.
  server: {
    host: "127.0.0.1",
    proxy: {
      "/api": "http://127.0.0.1:5080",
      "/health": "http://127.0.0.1:5080",
      "/live": { target: "http://127.0.0.1:5080", ws: true },
      "/practice-bench/api": "http://127.0.0.1:5080",
      "/practice-bench/live": { target: "http://127.0.0.1:5080", ws: true },
    },
  },
  test: { environment: "happy-dom", include: ["src/**/*.test.{ts,tsx}"] },
});
