import { expect, section, test } from "./bench";

/** From the job to its coolers: what fits, what would be otherwise, side by side, and the way back to the diagnosis. */
test("a cooler is chosen for a machine, and what if is answered while it is moved", async ({ page }) => {
  await page.goto("/coolers");
  await expect(page.getByText("Choose a machine, and its coolers stand here.")).toBeVisible();
  await page.getByLabel("A cooler for").selectOption({ label: "SL-0417 Quayside veterinary clinic" });
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Leave it: Sill Low 47 holds 65\sW/);
  const list = page.getByRole("list", { name: "Coolers that fit" });
  await expect(list.getByRole("listitem").first()).toContainText("is on it");

  // A hungrier chip: another cooler is advised; as it is brings the first answer back.
  const draws = page.getByLabel("Chip draws");
  await draws.fill("140");
  await expect(page.getByRole("heading", { level: 1 })).not.toContainText("Leave it");
  await page.getByRole("button", { name: "As it is" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Leave it");

  // Why the others do not fit, and by how much.
  await page.getByText("Does not fit").click();
  await expect(page.getByText(/It is \d+\smm high; the case takes 62\smm, \d+\smm less\./).first()).toBeVisible();
  await expect(page.getByRole("region", { name: "What would change it" })).toContainText("In a case that takes");

  await list.getByLabel("side by side").nth(0).check();
  await list.getByLabel("side by side").nth(1).check();
  await expect(page.getByRole("region", { name: "Side by side" }).getByRole("columnheader")).toHaveCount(3);
  await list.getByRole("listitem").first().getByRole("button").click();
  await expect(list.getByRole("listitem").first()).toContainText("Parts that can fail");
});

test("a machine that is not sound is sent to its diagnosis first", async ({ page }) => {
  await page.goto("/jobs?search=gull+lane");
  await page.getByRole("link", { name: /SL-0421/ }).click();
  await section(page, "Repair")
    .getByRole("button", { name: /^Repair/ })
    .click();
  await page.getByRole("link", { name: "Coolers for this machine" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Find out what is wrong first");
  await expect(page.getByText(/where a sound Mullion 120 should hold \d+\s°C/)).toBeVisible();
  await page.getByRole("link", { name: "To its diagnosis" }).click();
  await expect(section(page, "Diagnosis")).toContainText("Check next");
});
