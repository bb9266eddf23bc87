import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { chunkSizeWarningLimit: 950 },
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
  // A busy machine is no defect: tests wait for what they look for, and not for a clock.
  test: {
    environment: "jsdom",
    include: ["src/**/*.test.{ts,tsx}"],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
