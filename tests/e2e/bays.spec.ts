import { spawn, type ChildProcess } from "node:child_process";
import { join } from "node:path";
import { expect, newMachine, section, test } from "./bench";

// One rig for the whole file: two would speak for the same bays.
test.describe.configure({ mode: "serial", timeout: 120_000 });

let rig: ChildProcess;
test.beforeAll(({}, info) => {
  const program = join(process.env.REMEDOS_APP!, "rig", "Remedos.Bench.dll");
  rig = spawn("dotnet", [program, "--server", info.project.use.baseURL!, "--speed", "200"], { stdio: "ignore" });
});
test.afterAll(() => rig.kill());

test("a guided run is started in a bay, led to its end, and lands on its job", async ({ page }) => {
  await newMachine(page, "Ferry office");
  const job = page.url();
  await page.keyboard.press("Escape");
  await page.goto("/bench");
  const bay = page.getByRole("article", { name: "Bay 3", exact: true });
  await expect(bay).toContainText("Readings come in", { timeout: 30_000 });
  await bay.getByRole("button", { name: "Start a run" }).click();
  await bay.getByLabel("Whose machine").selectOption({ label: (await tagOf(page, "Ferry office"))! });
  await bay.getByLabel("How it is run").selectOption({ label: "Fans full" });
  await expect(bay).toContainText("the fans are steered too low");
  await bay.getByRole("button", { name: "Start", exact: true }).click();
  await expect(bay.getByRole("button", { name: "Stop the run" })).toBeVisible();
  await expect(bay).toContainText("full load", { timeout: 30_000 });
  // Whoever walks away loses nothing.
  await page.goto(job);
  const before = section(page, "Before");
  await expect(before).toContainText(/bay-3-fans-full-.*sustained/, { timeout: 60_000 });
  await page.goto("/bench");
  await expect(bay).toContainText("the run lands on its job");
});

test("a run is stopped by hand, and a bay can be added", async ({ page }) => {
  await page.goto("/bench");
  const bay = page.getByRole("article", { name: "Bay 2", exact: true });
  await expect(bay.getByRole("button", { name: "Start a run" })).toBeEnabled({ timeout: 30_000 });
  await bay.getByRole("button", { name: "Start a run" }).click();
  await expect(bay.getByRole("button", { name: "Start", exact: true })).toBeDisabled();
  await bay.getByLabel("Whose machine").selectOption({ index: 1 });
  await bay.getByRole("button", { name: "Start", exact: true }).click();
  await bay.getByRole("button", { name: "Stop the run" }).click();
  await expect(bay).toContainText("Stopped by hand.");
  const many = await page.getByRole("article").count();
  await page.getByRole("button", { name: "Add a bay" }).click();
  await expect(page.getByRole("article")).toHaveCount(many + 1);
  await expect(page.getByRole("article").last()).toContainText("nothing connected");
});

async function tagOf(page: import("@playwright/test").Page, owner: string) {
  const answer = await page.request.get("/api/jobs");
  const jobs = (await answer.json()) as { tag: string; owner: string | null }[];
  const found = jobs.find((job) => job.owner === owner);
  return found && `${found.tag} ${owner}`;
}
