import { expect, openSection, section, test } from "./bench";

// One after the other: the workshop's own weights order every list.
test.describe.configure({ mode: "serial" });

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
  await openSection(page, "Repair");
  await page.getByRole("link", { name: "Coolers for this machine" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Find out what is wrong first");
  await expect(page.getByText(/where a sound Mullion 120 stands at \d+\s°C/)).toBeVisible();
  await page.getByRole("link", { name: "To its diagnosis" }).click();
  await expect(section(page, "Diagnosis")).toContainText("Case gets too little air");
});

test("the ways are priced, the owner's choice is noted, and the cooler that goes on is on the sheet", async ({
  page,
}) => {
  await page.goto("/coolers");
  await page.getByLabel("A cooler for").selectOption({ label: "SL-0421 Gull Lane radio" });
  const costs = page.getByRole("region", { name: "What it costs" });
  await expect(costs).toContainText("advised");
  const list = page.getByRole("list", { name: "Coolers that fit" });
  const other = list.getByRole("listitem").filter({ hasNotText: "is on it" }).first();
  const name = (await other.locator(".text-xl").first().innerText()).replace(" to be fitted", "").trim();
  await other.getByRole("button").first().click();
  await expect(other.getByRole("img", { name: /^From the room/ })).toBeVisible();
  await expect(other).toContainText("In all");
  const goesOn = list.getByRole("listitem").filter({ hasText: name }).first();
  // A try before this one may have chosen it already.
  const backOut = goesOn.getByRole("button", { name: "Not this one after all" });
  if (await backOut.isVisible()) {
    await backOut.click();
  }
  await goesOn.getByRole("button", { name: "Fit this one" }).click();
  await expect(goesOn.getByRole("button", { name: "Not this one after all" })).toBeVisible();
  // All options stand in one place; the choice is there with its quote and who noted it, and a change of mind is kept.
  await costs.getByRole("link", { name: "All options side by side" }).click();
  const chosen = page.getByRole("status").filter({ hasText: "The owner chose" });
  await expect(chosen).toContainText(new RegExp(`Fit ${name}, €\\d+; noted by Ines`));
  const leave = page.getByRole("list", { name: "Options" }).getByRole("listitem").filter({ hasText: "Leave it" });
  await leave.getByRole("button", { name: "The owner chose it" }).click();
  await expect(chosen).toContainText("Leave it, €0");
  await expect(page.getByText("Chosen before")).toBeVisible();
  const again = page.getByRole("list", { name: "Options" }).getByRole("listitem").filter({ hasText: "advised" });
  await again.getByRole("button", { name: "All of it" }).click();
  await expect(again).toContainText("Cannot be undone");
  await again.getByRole("button", { name: "The owner chose it" }).click();
  await page.getByRole("link", { name: "To its steps" }).click();
  await expect(page.getByText("As the owner chose.")).toBeVisible();
});

test("a machine is put together from parts, and the workshop's own weights order the list", async ({ page }) => {
  await page.goto(
    "/coolers?parts=1&processor=Corbel+C125&board=Quoin+B5&case=Gable+Mid&memory=Dowel+Flat+2+×+16&cooler=Sill+box+cooler",
  );
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/125\sW/);
  await page.getByRole("button", { name: "Quiet night" }).click();
  await expect(page.getByLabel("Noise, at most")).toHaveValue("26");
  await page.getByText("Our own weights").click();
  await page.getByLabel("Money").fill("5");
  await page.getByRole("button", { name: "Order the list so" }).click();
  await expect(page.getByRole("radio", { name: "Our own" })).toBeChecked();
  await page.getByRole("button", { name: "Go by a school again" }).click();
  await expect(page.getByRole("radio", { name: "Our own" })).toHaveCount(0);
});
