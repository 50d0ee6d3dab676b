import { expect, type Page } from "@playwright/test";
import { newMachine, png, section, test, unwatched } from "./bench";

test("all changes can be read, taken back and put back, in any order that still holds", async ({ page }) => {
  await newMachine(page, "Net loft");
  await page.getByLabel("Serial number").fill("NL-7");
  await page.getByLabel("Serial number").blur();
  await expect(page.getByRole("button", { name: /^Undo: serial number/ })).toBeVisible();
  await page.getByRole("button", { name: "All changes" }).click();
  const changes = page.getByRole("list", { name: "All changes, the latest first" });
  await expect(changes.getByRole("listitem").first()).toContainText("serial number: nothing → NL-7");
  await changes.getByRole("listitem").first().getByRole("button", { name: "Take back" }).click();
  await expect(page.getByLabel("Serial number")).toHaveValue("");
  await expect(changes.getByRole("listitem").first()).toContainText("taken back");
  await changes.getByRole("listitem").first().getByRole("button", { name: "Put back" }).click();
  await expect(page.getByLabel("Serial number")).toHaveValue("NL-7");
});

test("what was typed on an empty field and never sent does not cover what a colleague has written there", async ({
  page,
}) => {
  await newMachine(page, "Rope walk");
  const address = new URL(page.url()).pathname;
  const id = address.split("/").at(-1)!;
  await page.goto("/bench");
  // The lid was closed in the middle of typing.
  const { me } = await (await page.request.get("/api/session")).json();
  await page.evaluate(
    (key) => localStorage.setItem(key, JSON.stringify({ draft: "mine", base: null })),
    `draft:${me.workshopId}:${me.id}:${id}:contact`,
  );
  await page.evaluate(async (job) => {
    const { token } = await (await fetch("/api/session")).json();
    await fetch(`/api/jobs/${job}/fields/contact`, {
      method: "PATCH",
      headers: { "Content-Type": "application/json", "X-Remedos-Token": token },
      body: JSON.stringify({ value: "theirs", base: null }),
    });
  }, id);
  await page.goto(address);
  await page.getByRole("alert").getByRole("button", { name: "Contact" }).click();
  await expect(page.getByText("Theirs: theirs. Yours: mine.")).toBeVisible();
  await page.getByRole("button", { name: "Take theirs" }).click();
  await expect(page.getByLabel("Contact")).toHaveValue("theirs");
});

unwatched("a fault in one place is told there, and leaves the way to the others", async ({ page }) => {
  await newMachine(page, "Sail makers");
  await page.route(/\/api\/jobs\/[0-9a-f-]+$/, async (route) => {
    const answer = await route.fetch();
    await route.fulfill({ response: answer, json: { ...(await answer.json()), steps: null } });
  });
  await page.goto(page.url());
  await expect(page.getByRole("heading", { name: /This page could not be drawn/ })).toBeVisible();
  await page.getByRole("navigation", { name: "Places" }).getByRole("link", { name: "Jobs" }).click();
  await expect(page.getByRole("heading", { level: 1 })).not.toContainText("could not be drawn");
});

test("paper is white whatever the theme, and pages need no secure origin", async ({ page }) => {
  await page.addInitScript(() => {
    // As on plain HTTP over a network.
    Object.defineProperty(crypto, "randomUUID", { value: undefined });
    localStorage.setItem("theme", "dark");
  });
  const jobs = (await (await page.request.get("/api/jobs")).json()) as { id: string; owner: string | null }[];
  const job = jobs.find((one) => one.owner?.startsWith("Boat builder"))!;
  await page.goto(`/jobs/${job.id}`);
  await expect(page.getByRole("region", { name: "Run trace" })).toBeVisible();
  await page.goto(`/jobs/${job.id}/handover`);
  await expect(page.getByRole("article").locator("svg").first()).toBeVisible();
  await page.emulateMedia({ media: "print" });
  const colours = await tokens(page);
  expect([colours["--paper"], colours["--ink"]]).toEqual(["#fff", "#000"]);
  // Every other one is the light theme's.
  expect([colours["--teal-soft"], colours["--shade"], colours["--amber"]]).toEqual(["#cfe3e1", "#ece5d8", "#8a5a00"]);
});

const tokens = (page: Page) =>
  page.evaluate(() => {
    const style = getComputedStyle(document.documentElement);
    return Object.fromEntries(
      ["--paper", "--ink", "--teal-soft", "--shade", "--amber"].map((name) => [
        name,
        style.getPropertyValue(name).trim(),
      ]),
    );
  });

test("the workshop's own settings save as they are typed, and two pages do not overwrite each other", async ({
  page,
  context,
}) => {
  await page.goto("/workshop");
  const other = await context.newPage();
  await other.goto("/workshop");
  // The other page's save is on its way when this one's arrives.
  let arrive = () => undefined as void;
  const saved = new Promise<void>((resolve) => (arrive = resolve));
  await other.route("**/api/settings/name", async (route) => {
    await saved;
    await route.continue();
  });
  await other.getByLabel("Workshop", { exact: true }).fill("Another name");
  await other.getByLabel("Workshop", { exact: true }).blur();
  await page.getByLabel("Workshop", { exact: true }).fill("Saltmarsh Lane Repairs co-op");
  await page.getByLabel("Workshop", { exact: true }).blur();
  await expect(page.getByText("Saved")).toBeVisible();
  arrive();
  await expect(other.getByText("Theirs: Saltmarsh Lane Repairs co-op. Yours: Another name.")).toBeVisible();
  await other.getByRole("button", { name: "Take theirs" }).click();
  await page.getByLabel("Workshop", { exact: true }).fill("Saltmarsh Lane Repairs");
  await page.getByLabel("Workshop", { exact: true }).blur();
  await page.getByLabel("Currency").fill("euro");
  await expect(page.getByText("Not saved: A currency is told by three capital letters, such as EUR.")).toBeVisible();
  await page.getByLabel("Currency").fill("EUR");
  await expect(page.getByRole("region", { name: "Server" })).toContainText("are well");
});

test("hours and a sign are set for what leaves the workshop, and a backup is made at a touch", async ({ page }) => {
  await page.goto("/workshop");
  const hours = page.getByRole("group", { name: "Opening hours" });
  await hours.getByRole("button", { name: "as above" }).click();
  await expect(hours.getByLabel("Sunday, to")).toHaveValue("14:00");
  await hours.getByLabel("Sunday, to").fill("");
  await expect(hours).toContainText("Not saved: Sunday needs both of its times, or neither.");
  await hours.getByLabel("Sunday, to").fill("12:30");
  await expect(hours).toContainText("Saved");
  await page.getByLabel("The workshop’s sign").setInputFiles({ name: "sign.png", mimeType: "image/png", buffer: png });
  await expect(page.getByRole("img", { name: "The workshop’s sign" })).toBeVisible();
  const backups = page.getByRole("region", { name: "Backups" });
  await backups.getByLabel("Every day at").fill("12:30");
  await backups.getByRole("button", { name: "Back up now" }).click();
  await expect(backups).toContainText(/The last one was made .* MB\./, { timeout: 40_000 });
  await page.reload();
  await expect(hours.getByLabel("Sunday, to")).toHaveValue("12:30");
  await expect(backups).toContainText("The next try is");

  // As it was, for whoever looks at documents and health beside this.
  await hours.getByLabel("Sunday, from").fill("");
  await hours.getByLabel("Sunday, to").fill("");
  await page.getByRole("region", { name: "Its sign" }).getByRole("button", { name: "None" }).click();
  await expect(page.getByRole("img", { name: "The workshop’s sign" })).toHaveCount(0);
  await backups.getByLabel("Every day at").fill("");
  await expect(backups).not.toContainText("The next try is");
});

test("a picture opens over the whole page, keeps the focus, and closes by a key", async ({ page }) => {
  await newMachine(page, "Cork shop");
  const picture = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  await section(page, "Intake").getByText("Pictures", { exact: true }).click();
  await page.locator("input[data-photos]").setInputFiles({ name: "back.png", mimeType: "image/png", buffer: picture });
  const small = section(page, "Intake").getByRole("button", { name: /back.png/ });
  await expect(small.locator("img")).toHaveAttribute("src", /small=true/);
  await small.focus();
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog", { name: "back.png" });
  await expect(dialog).toBeVisible();
  for (let i = 0; i < 6; i++) {
    await page.keyboard.press("Tab");
    expect(
      await page.evaluate(
        () =>
          document.activeElement === document.body ||
          document.querySelector("dialog")!.contains(document.activeElement),
      ),
    ).toBe(true);
  }
  // Its keys are not the sheet's: nothing is taken back under it.
  await page.keyboard.press("u");
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  await page.reload();
  await section(page, "Intake").getByText("Pictures", { exact: true }).click();
  await expect(small).toBeVisible();
});
