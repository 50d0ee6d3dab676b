import type { Page } from "@playwright/test";
import { expect, openSection, section, test } from "./bench";

const panel = (page: Page) => page.getByRole("region", { name: "Practice", exact: true });

/** A case out of a file: level 1, and paste that has dried. */
const file = {
  name: "case.json",
  mimeType: "application/json",
  buffer: Buffer.from(JSON.stringify({ remedosPractice: 1, level: 1, seed: 0 })),
};

/** Runs what is on it as its owner uses it, in the bay of practice. */
async function run(page: Page) {
  await page.getByRole("link", { name: "The bay", exact: true }).click();
  await expect(page.getByRole("button", { name: "Start a run" })).toBeEnabled({ timeout: 30_000 });
  await page.getByRole("button", { name: "Start a run" }).click();
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByText("Done: the run is filed with its job.")).toBeVisible({ timeout: 90_000 });
  await page.getByRole("link", { name: "The sheet", exact: true }).click();
}

test("a case is worked from its file to the debrief, and the workshop knows nothing of it", async ({ page }) => {
  test.slow();
  await page.goto("/practice");
  await expect(page.getByRole("heading", { level: 1 })).toContainText("find what is wrong");
  await page.locator("input[data-case]").setInputFiles({ ...file, buffer: Buffer.from("{}") });
  await expect(page.getByRole("alert")).toContainText("no practice case");
  await page.locator("input[data-case]").setInputFiles(file);
  await page.waitForURL(/\/practice-bench\/jobs\/[0-9a-f-]{36}$/);
  await expect(page.getByRole("link", { name: "Records" })).toHaveCount(0);

  // The owner is asked; what they say stands on the sheet.
  await panel(page).getByText("Ask the owner").click();
  await panel(page)
    .getByRole("button", { name: /^How it began/ })
    .click();
  await expect(panel(page)).toContainText("How it begangradual");
  await openSection(page, "Intake");
  await expect(section(page, "Intake").getByRole("radio", { name: "gradual" })).toBeChecked();
  await expect(page.getByText("Level 1: 1 min of labour")).toBeVisible();
  await panel(page).getByRole("radio", { name: "× 120" }).click();
  await expect(panel(page).getByRole("radio", { name: "× 120" })).toBeChecked();

  await run(page);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("paste dried out", { timeout: 30_000 });
  await expect(page.getByText("Level 1: 6 min of labour")).toBeVisible();
  await panel(page).getByText("Do a repair").click();
  await panel(page)
    .getByRole("button", { name: /^Reseat the cooler/ })
    .click();
  await expect(panel(page).getByRole("button", { name: /^Reseat the cooler/ })).toContainText("done");
  await openSection(page, "Repair");
  await section(page, "Repair").getByRole("button", { name: "Repaired", exact: true }).first().click();
  await expect(page.getByRole("region", { name: /^Setup 2/ })).toBeAttached();
  await run(page);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/Fixed|cooler/, { timeout: 30_000 });
  await panel(page).getByRole("radio", { name: "it is mended" }).click();
  await panel(page).getByRole("button", { name: "Give it back, and end the case" }).click();

  await page.waitForURL(/\/practice\/[0-9a-f-]{36}$/, { timeout: 30_000 });
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/of 100\. It was: paste dried out/);
  await expect(page.getByRole("region", { name: "How it was worked" })).toContainText("1 of 1 faults gone");
  await expect(page.getByRole("region", { name: "Where the information lay" })).toContainText("Paste print");
  await page.goto("/jobs");
  await expect(page.getByRole("link", { name: /^P-0/ })).toHaveCount(0);
  await page.goto("/practice");
  await expect(page.getByRole("region", { name: "How it went" })).toContainText(/\d+ of 100/);
});
