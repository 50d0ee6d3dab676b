import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { dropLog, example, expect, newMachine, now, section, test } from "./bench";

test("files that are no logs get a sentence, and the next good one works", async ({ page }) => {
  await newMachine(page, "Chandler's shop");
  const before = section(page, "Before");
  for (const [file, sentence] of [
    ["bad/empty.csv", "is empty"],
    ["bad/binary.csv", "not text"],
    ["bad/not-numeric.csv", "words where numbers should be"],
    ["bad/no-time-no-temperature.csv", "No column holds a processor temperature"],
  ] as const) {
    await dropLog(page, "before", example(file));
    const row = before.getByRole("alert").filter({ hasText: sentence });
    await expect(row).toContainText("Not read.");
    await row.getByRole("button", { name: "Dismiss" }).click();
    await expect(row).toHaveCount(0);
  }
  await dropLog(page, "before", example("bad/truncated.csv"));
  await expect(before.getByRole("article")).toContainText("breaks off and was left out");
});

test("a large log shows how far it is and can be stopped", async ({ page }) => {
  const path = join(mkdtempSync(join(tmpdir(), "remedos-")), "large.csv");
  const row = (i: number) => `${i},${(i % 40) + 40}.5,${100 + (i % 7)},22.0${",1234.5".repeat(30)}\n`;
  const header = `Time [s],CPU temperature [°C],CPU power [W],Room temperature [°C]${Array.from({ length: 30 }, (_, i) => `,Core ${i} clock [MHz]`).join("")}\n`;
  writeFileSync(path, header + Array.from({ length: 500_000 }, (_, i) => row(i)).join(""));
  await newMachine(page, "Tide gauge office");
  await section(page, "Before")
    .getByRole("button", { name: /^Before/ })
    .click();
  await page.locator("input[data-picker=before]").setInputFiles(path);
  const before = section(page, "Before");
  await expect(before.getByRole("progressbar")).toBeVisible();
  await before.getByRole("button", { name: "Stop" }).click();
  await expect(before.getByRole("progressbar")).toHaveCount(0);
  await page.reload();
  await expect(now(page)).toContainText("Look and listen");
  await expect(before.getByRole("article")).toHaveCount(0);
});

test("two tabs on one field: both texts stay until one is chosen", async ({ page, context }) => {
  await newMachine(page, "Net loft");
  const other = await context.newPage();
  await other.goto(page.url().replace(/#.*/, "#intake"));
  const mine = page.getByLabel("Contact");
  const theirs = other.getByLabel("Contact");
  await expect(theirs).toBeVisible();
  // The first tab has begun to type and does not hear of the other's change.
  await page.route("**/api/jobs/*", (route) => route.abort());
  await theirs.fill("ring twice");
  await theirs.blur();
  await expect(other.getByText("Saved", { exact: true })).toBeVisible();
  await mine.fill("mornings only");
  const alert = page.getByRole("alert").filter({ hasText: "changed this while you typed" });
  await expect(alert).toContainText("ring twice");
  await expect(alert).toContainText("mornings only");
  await page.unroute("**/api/jobs/*");
  await alert.getByRole("button", { name: "Keep mine" }).click();
  await expect(alert).toHaveCount(0);
  await expect(theirs).toHaveValue("mornings only");
});

test("what could not be saved stays, says so, and is saved later, even after a reload", async ({ page }) => {
  await newMachine(page, "Rope walk");
  await page.route("**/fields/**", (route) => route.abort());
  await page.getByLabel("Contact").fill("after the tide");
  await expect(page.getByText("What you typed stays here and is tried again.")).toBeVisible();
  await page.goto(page.url().replace(/#.*/, "#intake"));
  await page.reload();
  await expect(page.getByLabel("Contact")).toHaveValue("after the tide");
  await page.unroute("**/fields/**");
  await expect(page.getByLabel("Contact")).toHaveValue("after the tide");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});

test("a wrong number says why, and undo takes the last change back", async ({ page }) => {
  await newMachine(page, "Pilot station");
  await page.getByLabel("Processor’s temperature limit").fill("warm");
  await expect(page.getByText("Not saved: This is no number.")).toBeVisible();
  await page.getByLabel("Processor’s temperature limit").fill("400");
  await expect(
    page.getByText("Not saved: Processors protect themselves somewhere between 40 °C and 130 °C."),
  ).toBeVisible();
  await page.getByLabel("Processor’s temperature limit").fill("90");
  await page.getByLabel("Processor’s temperature limit").blur();
  await page.getByRole("button", { name: /Undo: temperature limit/ }).click();
  await expect(page.getByLabel("Processor’s temperature limit")).toHaveValue("100");
});

test("the server away is told with one thing to do", async ({ page }) => {
  await page.route("**/api/jobs*", (route) => route.abort());
  await page.goto("/jobs");
  await expect(page.getByRole("heading")).toContainText("The server does not answer.", { timeout: 20_000 });
  await page.unroute("**/api/jobs*");
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByRole("link", { name: /SL-0412/ })).toBeVisible();
});

test("an address that leads nowhere leads back", async ({ page }) => {
  await page.goto("/nowhere");
  await page.getByRole("link", { name: "Go to the jobs" }).click();
  await expect(page.getByRole("link", { name: /SL-0412/ })).toBeVisible();
});
