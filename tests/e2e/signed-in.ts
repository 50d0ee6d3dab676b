import { writeFileSync } from "node:fs";
import type { FullConfig } from "@playwright/test";
import { enter, storage } from "../../scripts/door.mjs";

/** Signs in once, for all tests that ask for nobody else. */
export default async function signedIn(config: FullConfig) {
  const address = config.projects[0]!.use.baseURL!;
  const { cookies } = await enter(address);
  writeFileSync(process.env.REMEDOS_E2E_SIGNED_IN!, JSON.stringify(storage(address, cookies)), { mode: 0o600 });
}
