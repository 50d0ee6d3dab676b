import { expect, test } from "./bench";

/** What a figure says and what stands behind it, on the demo's machines, which other specs leave alone. */
test("every figure of the records opens the machines that it is made of", async ({ page }) => {
  await page.goto("/records");
  const pastes = page.getByRole("region", { name: "Pastes and methods" });
  const pair = pastes.getByRole("region", { name: "Chalk 2 or Tallow Grey 5" });
  await expect(pair).toContainText(/Tallow Grey 5 runs .+ cooler than Chalk 2 at 100\sW, in 2 machines\./);
  await pair.getByRole("button", { name: "The 2 machines behind it" }).click();
  await expect(pair.getByRole("link")).toHaveCount(2);
  await expect(pair.getByRole("link").first()).toHaveText(/^SL-\d+: −.+ ± .+\s°C, \d runs$/);

  // A figure leads to the runs behind it, where each can be left out.
  await pair.getByRole("link").first().click();
  await expect(page).toHaveURL(/#after$/);
  await expect(page.getByRole("region", { name: "After", exact: true })).toBeInViewport();
  await expect(page.getByRole("button", { name: "Leave it out of the records …" }).first()).toBeAttached();
  await page.goBack();

  const parts = page.getByRole("region", { name: "Parts that were fitted" });
  await parts.getByRole("button", { name: "Chalk 2" }).click();
  await parts.getByRole("link", { name: "SL-0352: came back as SL-0393 after 10 months" }).click();
  await expect(page).toHaveTitle(/SL-0393/);
});

test("the record of a series stands where it is offered", async ({ page }) => {
  await page.goto("/records");
  const record = await page.getByRole("region", { name: "Rill 240" }).locator("p").first().textContent();
  await page.goto("/jobs?search=SL-0412");
  await page
    .getByRole("link", { name: /SL-0412/ })
    .first()
    .click();
  await expect(page).toHaveTitle(/SL-0412/);
  await page.goto(`/coolers?job=${new URL(page.url()).pathname.split("/").pop()}`);
  const rill = page.getByRole("listitem").filter({ hasText: "Rill 240", hasNotText: "Hush" }).first();
  await expect(rill).toContainText(`Here ${record!.charAt(0).toLowerCase()}${record!.slice(1)}`);
});
