import { tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";

// The runner evaluates this file once more in every worker; the port must be the same in all of them.
process.env.REMEDOS_E2E_PORT ??= String(20000 + Math.floor(Math.random() * 20000));
const address = `http://127.0.0.1:${process.env.REMEDOS_E2E_PORT}`;
const app = process.env.REMEDOS_APP;
if (!app) {
  throw new Error(
    "REMEDOS_APP is not set: run these tests by ./test e2e, which builds the app and starts a PostgreSQL for them.",
  );
}

process.env.REMEDOS_E2E_SIGNED_IN ??= join(tmpdir(), `remedos-signed-in-${process.env.REMEDOS_E2E_PORT}.json`);
const signedIn = process.env.REMEDOS_E2E_SIGNED_IN;

export default defineConfig({
  testDir: ".",
  // What changes the whole workshop goes last, when all others are done with it; alone: --no-deps.
  projects: [
    { name: "side by side", testIgnore: ["drills/**", "fahrenheit.spec.ts"] },
    { name: "the whole workshop", testMatch: "fahrenheit.spec.ts", dependencies: ["side by side"] },
  ],
  fullyParallel: true,
  workers: 2,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  // One more try where processors are lent out; ./test names what needed it.
  retries: process.env.CI ? 1 : 0,
  globalSetup: "./signed-in.ts",
  use: {
    baseURL: address,
    // As Ines, the demo's lead; a test of others signs them in itself.
    storageState: signedIn,
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync".split(
        " ",
      ),
    },
  },
  webServer: {
    command: `dotnet Remedos.Server.dll --Port ${process.env.REMEDOS_E2E_PORT} --FileStore "${process.env.REMEDOS_E2E_FILES}" --BackupFolder "${tmpdir()}" --Demo true`,
    cwd: app,
    env: { ConnectionStrings__Remedos: process.env.REMEDOS_E2E_CONNECTION ?? "" },
    url: `${address}/health`,
    timeout: 120_000,
  },
});
