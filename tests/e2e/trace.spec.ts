import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { dropLog, example, expect, newMachine, section, test } from "./bench";

const trace = (page: Page) => section(page, "Run trace");
const lane = (page: Page, id: string) => page.locator(`[data-lane="${id}"] .u-over`);

test("a drag in a lane zooms all, the brush pans, a double click shows all", async ({ page }) => {
  await page.goto("/jobs");
  await page.getByRole("link", { name: /SL-0412/ }).click();
  const chip = lane(page, "temperature");
  await chip.hover();
  await expect(page.getByText("of load", { exact: true })).toBeVisible();
  const box = (await chip.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 320, box.y + 60, { steps: 4 });
  await page.mouse.up();
  await page.mouse.move(5, 5);
  await expect(page.getByText("double-click shows all")).toBeVisible();
  const from = page.getByRole("slider", { name: "Show from" });
  const before = Number(await from.getAttribute("aria-valuenow"));
  await from.focus();
  await page.keyboard.press("ArrowRight");
  await expect(from).toHaveAttribute("aria-valuenow", String(before + 1));
  await chip.dblclick();
  await page.mouse.move(5, 5);
  await expect(page.getByText("drag to zoom")).toBeVisible();
});

test("lanes are chosen and kept; cores, fit and columns without a role can be seen", async ({ page }) => {
  await newMachine(page, "Pilot boat crew");
  await dropLog(page, "before", example("runs/01-tower-healthy.csv"));
  await expect(lane(page, "clock")).toBeVisible();
  await trace(page).getByRole("button", { name: "Lanes" }).click();
  for (const name of ["Clock (GHz)", "Case fan (rpm)", "Cores, coolest to hottest", "Fit, and what it leaves"]) {
    await page.getByRole("menuitemcheckbox", { name }).click();
  }
  await page.keyboard.press("Escape");
  await expect(lane(page, "clock")).toHaveCount(0);
  await expect(lane(page, "case-fan")).toBeVisible();
  await expect(trace(page).getByText("Off the fit")).toBeVisible();
  await lane(page, "temperature").hover();
  await expect(trace(page).getByText(/^\d+–\d+$/)).toBeVisible();
  await page.reload();
  await expect(lane(page, "case-fan")).toBeVisible();
  await expect(trace(page).getByText("Off the fit")).toBeVisible();
  await expect(lane(page, "clock")).toHaveCount(0);
});

test("the load's edge is dragged, the run read anew, and undo puts it back", async ({ page }) => {
  await newMachine(page, "Harbour bus garage");
  await dropLog(page, "before", example("runs/02-paste-before.csv"));
  const starts = trace(page).getByRole("slider", { name: "Load begins" });
  await expect(starts).toBeVisible();
  const found = await starts.getAttribute("aria-valuenow");
  await starts.scrollIntoViewIfNeeded();
  const box = (await starts.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(trace(page)).toContainText("set by hand");
  await expect(starts).not.toHaveAttribute("aria-valuenow", found!);
  // Its other edge by keys.
  const ends = trace(page).getByRole("slider", { name: "Load ends" });
  const end = Number(await ends.getAttribute("aria-valuenow"));
  await ends.focus();
  await page.keyboard.press("Shift+ArrowLeft");
  const saved = page.waitForResponse(/conditions/);
  await page.keyboard.press("Enter");
  await saved;
  await expect(page.getByRole("button", { name: /Undo: where the load begins and ends/ })).toBeVisible();
  await page.reload();
  await expect(ends).toHaveAttribute("aria-valuenow", String(end - 10));
  await trace(page).getByRole("button", { name: "Find them again" }).click();
  await expect(starts).toHaveAttribute("aria-valuenow", found!);
  await page.getByRole("button", { name: /Undo: where the load/ }).click();
  await expect(trace(page)).toContainText("set by hand");
});

test("a moment is marked, kept, and taken back", async ({ page }) => {
  await newMachine(page, "Signal box");
  await dropLog(page, "before", example("runs/02-paste-before.csv"));
  await trace(page).getByRole("button", { name: "Marks" }).click();
  await page.getByLabel("min:s").fill("99:00");
  await page.getByLabel("what", { exact: true }).fill("panel off");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("The run goes from");
  await page.getByLabel("min:s").fill("2:30");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "panel off" })).toContainText("2:30");
  await page.reload();
  await trace(page).getByRole("button", { name: "Marks (1)" }).click();
  await page.getByRole("button", { name: "Take “panel off” away" }).click();
  await expect(trace(page).getByRole("button", { name: "Marks", exact: true })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /Undo: marks of a run/ }).click();
  await expect(trace(page).getByRole("button", { name: "Marks (1)" })).toBeVisible();
});

test("repeats in one log become runs that are laid over each other, and over another job's", async ({ page }) => {
  const path = join(mkdtempSync(join(tmpdir(), "remedos-")), "three-times.csv");
  const watts = (second: number) => (second % 800 > 200 ? 120 : 12);
  writeFileSync(
    path,
    "Time [s],CPU temperature [°C],CPU power [W]\n" +
      Array.from({ length: 2400 }, (_, i) => `${i},${(30 + watts(i) * 0.3).toFixed(1)},${watts(i)}\n`).join(""),
  );
  await newMachine(page, "Rowing club");
  await dropLog(page, "before", path);
  await expect(section(page, "Before").getByRole("article")).toHaveCount(3);
  await expect(section(page, "Before").getByRole("article").nth(1)).toContainText("three-times.csv, from");
  await trace(page).getByRole("button", { name: "Runs" }).click();
  await page.getByRole("checkbox", { name: /^as it came 1/ }).check();
  await expect(trace(page).getByText("as it came 1", { exact: true })).toBeVisible();
  await page.getByLabel("Another job’s").selectOption({
    label: "SL-0412 Design station, dual-radiator loop, 37 months, closed case under the drawing table",
  });
  await page.getByRole("checkbox", { name: /^Corvane Ridge 2 · / }).click();
  await expect(trace(page).getByText("SL-0412 Corvane Ridge 2", { exact: true })).toBeVisible();
});

test("a log without a known temperature is mended at the column desk; a file on two jobs is told", async ({ page }) => {
  const path = join(mkdtempSync(join(tmpdir(), "remedos-")), "strange.csv");
  const lines = readFileSync(example("runs/02-paste-before.csv"), "utf8").split("\n");
  const header = lines[0]!.split(",").map((_, i) => `Kanal ${"ABCDEFGHIJKLMNOP"[i]}`);
  writeFileSync(path, [header.join(","), ...lines.slice(1)].join("\n"));
  const temperature = lines[0]!.split(",").findIndex((name) => /cpu.*°C|cpu.*temp/i.test(name));
  await newMachine(page, "Sail loft");
  await dropLog(page, "before", path);
  const before = section(page, "Before");
  await expect(before.getByRole("alert")).toContainText("No column holds a processor temperature");
  await before.getByLabel(`What ${header[temperature]} is`).selectOption("cpu-temperature");
  await expect(before.getByRole("alert")).toContainText("No column holds the time");
  await before.getByLabel(`What ${header[0]} is`).selectOption("time");
  await expect(before.getByRole("article")).toBeVisible();
  await newMachine(page, "Sail loft, second machine");
  await dropLog(page, "before", path);
  await expect(before.getByRole("article")).toContainText("The same file is also on SL-");
});
