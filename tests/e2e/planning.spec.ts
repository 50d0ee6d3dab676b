import type { Page } from "@playwright/test";
import { expect, newMachine, openSection, section, test } from "./bench";

const list = (page: Page) => page.getByRole("region", { name: "When machines will be ready" });
const row = (page: Page, tag: string) => list(page).getByRole("listitem").filter({ hasText: tag });

async function tagOf(page: Page) {
  return (await page.title()).match(/[A-Z]+-\d+/)![0];
}

test("a machine that is put first is touched now, and what was put first can be put in order by keys", async ({
  page,
}) => {
  await newMachine(page, "Tide mill");
  const one = await tagOf(page);
  await newMachine(page, "Ferry steps");
  const other = await tagOf(page);
  await page.goto("/jobs");
  await page.getByRole("link", { name: "The whole day" }).click();
  await row(page, one).getByRole("button", { name: "Put first" }).click();
  await expect(row(page, one).getByRole("button", { name: "No hurry" })).toBeVisible();
  await row(page, other).getByRole("button", { name: "Put first" }).click();
  const firstTwo = list(page).getByRole("list").first().getByRole("listitem");
  await expect(firstTwo.first()).toContainText(other);
  await expect(firstTwo.nth(1)).toContainText(one);

  // The one below over the one above, without a mouse.
  const handle = row(page, one).getByRole("button", { name: `Move ${one}` });
  await handle.focus();
  await page.keyboard.press("Space");
  await expect(handle).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("ArrowUp");
  await expect(page.getByText(`${one} is at ${other}.`)).toBeAttached();
  await page.keyboard.press("Space");
  await expect(firstTwo.first()).toContainText(one);

  // Whoever opens the bench reads the same.
  await page.goto("/bench");
  await expect(page.getByRole("region", { name: "What comes first" })).toContainText(one);
  await page.goto("/jobs/day");
  for (const tag of [one, other]) {
    await row(page, tag).getByRole("button", { name: "No hurry" }).click();
    await expect(row(page, tag).getByRole("button", { name: "Put first" })).toBeVisible();
  }
});

test("whoever is away has nothing to do on that day, on every page that is open", async ({ page, context }) => {
  await page.goto("/jobs/day");
  const second = await context.newPage();
  await second.goto("/jobs");
  await expect(second.getByRole("region", { name: "What comes first" })).toContainText("Mirela");
  await page.getByText("Who and what is here").click();
  const mirela = page.getByRole("group", { name: "Hands" }).getByRole("button", { name: "Mirela" });
  await mirela.click();
  await expect(mirela).toHaveAttribute("aria-pressed", "false");
  await expect(second.getByRole("region", { name: "What comes first" })).not.toContainText("Mirela", {
    timeout: 15_000,
  });
  await mirela.click();
  await expect(mirela).toHaveAttribute("aria-pressed", "true");
});

test("a promise stands on the sheet beside what the plan says, and late is told with its reason", async ({ page }) => {
  await newMachine(page, "Pilot cutter");
  const tag = await tagOf(page);
  await expect(page.getByText(/By the plan it is ready/)).toBeVisible();
  await page.getByLabel("Promised for").fill("2026-01-05T12:00");
  await page.getByLabel("Promised for").blur();
  await expect(page.getByText("That has passed already.")).toBeVisible();
  await page.getByRole("radio", { name: "A part" }).click();
  await expect(page.getByLabel("The part comes on")).toBeVisible();
  await page.goto("/jobs/day");
  await expect(row(page, tag)).toContainText("nobody has noted on which day it comes");
});

test("a run is left out of the records with a reason, and counts again", async ({ page }) => {
  const jobs = (await (await page.request.get("/api/jobs")).json()) as { id: string; tag: string }[];
  await page.goto(`/jobs/${jobs.find((one) => one.tag === "SL-0412")!.id}`);
  await openSection(page, "After");
  const run = section(page, "After").getByRole("article").first();
  await run.getByRole("button", { name: /^Leave it out of the records/ }).click();
  await run.getByLabel("Why it should not count").fill("the filter was off");
  await run.getByRole("button", { name: "Leave it out", exact: true }).click();
  await expect(run).toContainText("Left out of the records: the filter was off");
  await run.getByRole("button", { name: "Let it count again" }).click();
  await expect(run.getByRole("button", { name: /^Leave it out of the records/ })).toBeVisible();
});
