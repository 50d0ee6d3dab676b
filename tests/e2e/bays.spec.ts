import { spawn, type ChildProcess } from "node:child_process";
import { join } from "node:path";
import { expect, newMachine, section, test } from "./bench";

// One rig for the whole file: two would speak for the same bays.
test.describe.configure({ mode: "serial", timeout: 120_000 });

let rig: ChildProcess;
test.beforeAll(({}, info) => {
  const program = join(process.env.REMEDOS_APP!, "rig", "Remedos.Bench.dll");
  rig = spawn("dotnet", [program, "rig", "--server", info.project.use.baseURL!, "--speed", "200"], { stdio: "ignore" });
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
  await before.getByRole("button", { name: /^Before/ }).click();
  await expect(before).toContainText(/bay-3-fans-full-.*sustained/, {
    timeout: 60_000,
  });
  await page.goto("/bench");
  await expect(bay).toContainText("the run is filed with its job");
});

test("a run is stopped by hand, and a bay can be added", async ({ page }) => {
  await page.goto("/bench");
  const bay = page.getByRole("article", { name: "Bay 2", exact: true });
  await expect(bay.getByRole("button", { name: "Start a run" })).toBeEnabled({
    timeout: 30_000,
  });
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

test("a bay that waits for a hand says so on every page, and goes on when it is done", async ({ page }) => {
  await page.goto("/bench");
  const card = page.getByRole("article", { name: "Bay 1", exact: true });
  await expect(card.getByRole("button", { name: "Start a run" })).toBeEnabled({ timeout: 30_000 });
  await card.getByRole("link", { name: "Bay 1" }).click();
  // Until the bay's own page stands there, a key would still go to the link.
  await expect(page.getByRole("heading", { name: "Bay 1", level: 1 })).toBeVisible();
  await expect(page.getByRole("button", { name: "Start a run" })).toBeEnabled({ timeout: 30_000 });
  // Space starts and stops the bay in focus.
  await page.keyboard.press("Space");
  await page.getByLabel("Whose machine").selectOption({ index: 1 });
  await page.getByLabel("How it is run").selectOption({ label: "The owner’s own load" });
  await page.getByLabel("How long").selectOption({ label: "5 min of load" });
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByRole("article")).toContainText("Start the owner’s program now.", { timeout: 30_000 });
  await page.getByRole("link", { name: "Jobs" }).click();
  await expect(page.getByText("Bay 1 waits: Start the owner’s program now.")).toBeVisible();
  await expect(page).toHaveTitle(/^Bay 1 waits for a hand/);
  await page.getByText("Bay 1 waits: Start the owner’s program now.").click();
  await page.getByLabel("The owner’s program runs").check();
  await expect(page.getByRole("article")).toContainText("full load", { timeout: 30_000 });
  await page.getByRole("button", { name: "Hold it here" }).click();
  await expect(page.getByRole("article")).toContainText("held at");
  await page.getByLabel("Sound at 1 m, dB(A)").fill("38,5");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Kept with the run.")).toBeVisible();
  await page.getByRole("button", { name: "Let it go on" }).click();
  await expect(page.getByRole("article")).toContainText("the run is filed with its job", { timeout: 60_000 });
  await expect(page).not.toHaveTitle(/waits for a hand/);
  await page.getByLabel("The owner’s program runs").uncheck();
  await page.getByRole("button", { name: "The same again" }).click();
  await expect(page.getByRole("button", { name: "Stop the run" })).toBeVisible();
  await page.getByRole("heading", { name: "Bay 1" }).click();
  await page.keyboard.press("Space");
  await expect(page.getByRole("article")).toContainText("Stopped by hand.");
});

test("hands lift the cooler of a simulated machine and mount another", async ({ page }) => {
  await page.goto("/bench/4");
  await page.getByRole("combobox", { name: /^Cooler/ }).selectOption("lifted");
  await expect(page.getByRole("article")).toContainText("The paste is dry and crumbles.", { timeout: 30_000 });
  await page.getByRole("combobox", { name: /^Cooler/ }).selectOption("");
  await expect(page.getByRole("article")).toContainText("Its own cooler mounted again with new paste.");
});

test("a page that was away knows all when it comes back", async ({ page, context }) => {
  await page.goto("/bench");
  const bay = page.getByRole("article", { name: "Bay 3", exact: true });
  await expect(bay.getByRole("img", { name: /Chip at/ })).toBeVisible({ timeout: 30_000 });
  await context.setOffline(true);
  await expect(page.getByRole("alert")).toContainText("The bays may be out of date", { timeout: 40_000 });
  await context.setOffline(false);
  await expect(page.getByRole("alert")).toHaveCount(0, { timeout: 40_000 });
  await expect(bay.getByRole("img", { name: /Chip at/ })).toBeVisible();
});

async function tagOf(page: import("@playwright/test").Page, owner: string) {
  const answer = await page.request.get("/api/jobs");
  const jobs = (await answer.json()) as { tag: string; owner: string | null }[];
  const found = jobs.find((job) => job.owner === owner);
  return found && `${found.tag} ${owner}`;
}
