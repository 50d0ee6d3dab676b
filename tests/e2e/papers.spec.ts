import { expect, newMachine, openSection, test } from "./bench";

/** A quote is made, agreed and taken back; a link is opened by a stranger until it is withdrawn; a measure stays on the job. */
test("what leaves the workshop: a quote with its yes, and a link that ends", async ({ page, browser }) => {
  await newMachine(page, "Tide house");
  const sheet = page.url().split(/[?#]/)[0]!;
  await page.goto(`${sheet}/papers`);
  const next = page.getByRole("region", { name: "The next one" });
  await next.getByRole("button", { name: "A part" }).click();
  await expect(next.getByRole("button", { name: "Make the quote" })).toBeDisabled();
  await next.getByLabel("Line 1, what").fill("Paste");
  await next.getByLabel("Line 1, price of one").fill("4,33");
  await next.getByRole("button", { name: "Minutes" }).click();
  await next.getByLabel("Line 2, minutes").fill("37");
  // 4.33 and 37 min of 48.00 an hour, 20 % on both.
  await expect(next).toContainText("40.72 EUR");
  await next.getByRole("button", { name: "Make the quote" }).click();

  const made = page.getByRole("region", { name: "Those that went out" }).getByRole("listitem");
  await expect(made).toContainText("40.72 EUR");
  await made.getByRole("radio", { name: "by telephone" }).click();
  await expect(made).toContainText(/agreed by telephone/);
  await made.getByRole("button", { name: "Take it back …" }).click();
  await made.getByLabel("Why").fill("another cooler");
  await made.getByRole("button", { name: "Take it back" }).click();
  await expect(made).toContainText(/taken back .*: another cooler/);

  await page.goto(`${sheet}/handover`);
  const links = page.getByRole("region", { name: "Links for the owner" });
  await links.getByRole("button", { name: "Make a link" }).click();
  const address = (await links.locator("[data-link]").textContent())!.trim();
  const stranger = await browser.newPage({ storageState: { cookies: [], origins: [] } });
  await stranger.goto(address);
  await expect(stranger.getByRole("heading", { level: 1 })).toHaveText("Nothing was measured.");
  const pdf = await stranger.request.get(`${address}/report.pdf`);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  await links.getByRole("button", { name: "Withdraw" }).click();
  await expect(links).toContainText("This link no longer works.");
  await stranger.goto(address);
  await expect(stranger.getByRole("heading", { level: 1 })).toHaveText("This link no longer works");
  await stranger.close();
});

test("a length measured at the machine is kept with the job and decides there", async ({ page }) => {
  await page.goto("/jobs?search=SL-0419");
  await page.getByRole("link", { name: /SL-0419/ }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
  await page.goto(page.url().replace(/\/jobs\/([^?#]*).*/, "/coolers?job=$1"));
  const room = page.getByRole("region", { name: "Room for a cooler’s height" });
  await expect(room).toContainText(/Decides \d+ coolers/);
  await room.getByRole("textbox").fill("40");
  await expect(page.getByText("Does not fit")).toBeVisible();
  await expect(room).not.toContainText("Decides");
  // Typed wrong and put right; nothing of it is lost over a reload.
  await room.getByRole("textbox").fill("4000");
  await expect(room).toContainText("Expected 20 to 300 mm.");
  await room.getByRole("textbox").fill("164");
  await expect(room).toContainText("Saved");
  await page.reload();
  await expect(room.getByRole("textbox")).toHaveValue("164");
});

test("a job is fetched as one file and read in again, as itself and as another", async ({ page }) => {
  await newMachine(page, "Ferry ticket office");
  const sheet = page.url().split(/[?#]/)[0]!;
  await openSection(page, "Handover");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "the whole job" }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/^SL-\d+\.zip$/);
  const path = (await file.path())!;

  await page.goto("/jobs");
  await page.getByLabel("A job’s file").setInputFiles(path);
  const told = page.getByRole("alert");
  await expect(told).toContainText(/is here already, as SL-\d+/);
  await told.getByRole("link", { name: "Open it" }).click();
  await page.waitForURL(sheet);
  await page.goto("/jobs");
  await page.getByLabel("A job’s file").setInputFiles(path);
  await told.getByRole("button", { name: "Read it in as a new job" }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
  expect(page.url()).not.toContain(sheet);
  await expect(page.getByRole("main")).toContainText("Ferry ticket office");

  // What is no job is refused with a sentence, and the list stays.
  await page.goto("/jobs");
  await page
    .getByLabel("A job’s file")
    .setInputFiles({ name: "a.zip", mimeType: "application/zip", buffer: Buffer.from("PK") });
  await expect(told).toContainText("“a.zip” is no ZIP file, or it is damaged.");
  await told.getByRole("button", { name: "Dismiss" }).click();
  await expect(told).toHaveCount(0);
});
