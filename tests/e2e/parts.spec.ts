import { expect, test } from "./bench";

/** The library by hand and by file. */
test("a part is doubled, changed, undone, retired and brought back", async ({ page }, info) => {
  // Another name for another try: what a try before this one has kept is still there.
  const mark = `${info.retry}${info.repeatEachIndex}`;
  await page.goto("/coolers/parts?kind=fan");
  await page.getByRole("button", { name: /^Eddy 120 Swift/ }).click();
  await page.getByRole("button", { name: "Double it" }).click();
  const form = page.getByRole("form", { name: "A new part" });
  await form.getByLabel("Name").fill(`Eddy 120 Test ${mark}`);
  await form.getByLabel(/^At full, rpm/).fill("wild");
  await form.getByRole("button", { name: "Keep it" }).click();
  await expect(form.getByRole("alert")).toHaveText("maxRpm: “wild” is no number.");
  await form.getByLabel(/^At full, rpm/).fill("1800");
  await form.getByRole("button", { name: "Keep it" }).click();

  const kept = page.getByRole("form", { name: `Eddy 120 Test ${mark}` });
  await kept.getByLabel("Slowest, rpm").fill("450");
  await kept.getByRole("button", { name: "Save" }).click();
  await kept.getByRole("button", { name: "Undo" }).click();
  await expect(kept.getByLabel("Slowest, rpm")).toHaveValue("500");
  await page.getByRole("button", { name: "Retire it" }).click();
  await expect(page.getByText(`Eddy 120 Test ${mark} is retired`)).toBeVisible();
  await expect(page.getByRole("button", { name: new RegExp(`^Eddy 120 Test ${mark}`) })).toHaveCount(0);
  await page.getByRole("button", { name: "Bring it back" }).click();
  await expect(page.getByRole("button", { name: new RegExp(`^Eddy 120 Test ${mark}`) })).toBeVisible();
  await page.getByLabel("Search the parts").fill("lull 140");
  await expect(page.getByRole("list", { name: "Parts" }).getByRole("listitem")).toHaveCount(1);
});

test("a file is shown first, and taken whole or not at all", async ({ page }, info) => {
  const mark = `${info.retry}${info.repeatEachIndex}`;
  await page.goto("/coolers/parts?kind=fan");
  const file = (text: string) =>
    page.getByLabel("A file of parts").setInputFiles({
      name: "fans.csv",
      mimeType: "text/csv",
      buffer: Buffer.from(text),
    });
  const shown = page.getByRole("region", { name: "What the file would do" });
  await file(`part,name,sizeMm,maxRpm\nfan,Squall ${mark},120,2100\nfan,Squall 140,wide,1500\n`);
  await expect(shown).toContainText("Nothing is taken yet: one line is wrong");
  await expect(shown.getByRole("listitem").nth(1)).toContainText("sizeMm: “wide” is no number.");
  await expect(shown.getByRole("button", { name: "Take all of it" })).toBeDisabled();
  await shown.getByRole("button", { name: "Leave it" }).click();

  await file(`part,name,sizeMm,maxRpm\nfan,Squall ${mark},120,2100\n`);
  await shown.getByRole("button", { name: "Take all of it" }).click();
  await expect(shown).toContainText("Taken: 1 new, 0 changed");
  await shown.getByRole("button", { name: "Done" }).click();
  await expect(page.getByRole("button", { name: new RegExp(`^Squall ${mark}`) })).toBeVisible();
  await file("no parts at all");
  await expect(shown.getByRole("alert")).toHaveText("Line 1 names the columns; part and name are among them.");

  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "As CSV" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("fans.csv");
});
