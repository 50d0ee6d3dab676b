import { defineConfig } from "@playwright/test";

/** What ./start and ./remedos do when things go wrong: each drill in a data folder of its own, one after the other. */
export default defineConfig({
  testDir: "drills",
  workers: 1,
  timeout: 180_000,
  expect: { timeout: 60_000 },
  retries: process.env.CI ? 1 : 0,
});
