import { expect, newMachine, now, png, test } from "./bench";

const title = "heading";

/** A plan is begun at the bench, goes on while the server is away, and on another tablet; what it changed stands on the sheet. */
test("a repair is worked through step by step, over an interruption and on two tablets", async ({ page, context }) => {
  await newMachine(page, "Lighthouse board");
  const sheet = page.url().split(/[?#]/)[0]!;
  await page.goto(`${sheet}/repair`);
  await expect(page.getByRole(title, { level: 1 })).toHaveText("What is to be done?");
  await page.getByLabel("Reseat the cooler with fresh paste").check();
  await page.getByLabel("It cannot be switched on").check();
  await expect(page.getByRole(title, { level: 1 })).toContainText(
    /Reseat the cooler with fresh paste: \d+ steps, about \d+ min/,
  );
  await page.getByRole("button", { name: "Begin" }).click();
  const step = page.getByRole(title, { level: 1 });
  await expect(step).toHaveText("The maker’s instructions come first");

  // A foot switch ticks; a picture is a picture.
  for (const next of [
    "Shut it down",
    "Pull the mains lead",
    "Hold the power button",
    "Side panel off",
    "Two minutes",
    "Lay it on its side",
    "Photograph it as it is",
  ]) {
    await page.keyboard.press("PageDown");
    await expect(step).toContainText(next);
  }
  await page.locator("[data-step-photo]").setInputFiles({
    name: "log.png",
    mimeType: "image/png",
    buffer: Buffer.from("no picture"),
  });
  await expect(page.getByRole("alert")).toContainText("log.png");
  await page.getByRole("button", { name: "Skip it …" }).click();
  const skipped = page.waitForResponse((answer) => answer.request().method() === "PATCH" && answer.ok());
  await page.getByRole("button", { name: "Not possible here" }).click();
  await expect(step).toHaveText("Card out");
  await skipped;

  // The server is away: the work goes on, and the page says what it keeps.
  await context.setOffline(true);
  await page.keyboard.press("PageDown");
  await expect(step).toContainText("Pull the plugs");
  await page.getByLabel("Plugs that are out, one a line").fill("CPU fan on CPU\ncase fan on SYS");
  await page.getByRole("button", { name: "2 things, all listed" }).click();
  await expect(page.getByRole("status").filter({ hasText: "kept on this device" })).toContainText("2 steps");
  await context.setOffline(false);
  await page.getByRole("button", { name: "Try now" }).click();
  await expect(page.getByRole("status").filter({ hasText: "kept on this device" })).toHaveCount(0, { timeout: 15_000 });

  // Another tablet stands at the same step, and its tick is seen here.
  const tablet = await context.newPage();
  await tablet.goto(`${sheet}/repair`);
  await expect(tablet.getByRole(title, { level: 1 })).toHaveText("Loosen across, in rounds");
  await tablet.keyboard.press("PageDown");
  await expect(step).toContainText("Twist", { timeout: 15_000 });
  await tablet.close();

  // Something unexpected leads to the diagnosis, and back to the same step.
  await page.getByRole("link", { name: "Something unexpected" }).click();
  await expect(page.getByText(/is under way, step \d+ of \d+: Twist/)).toBeVisible();
  await expect(now(page)).toContainText("Twist");
  await page.getByRole("link", { name: "Go on with it" }).click();
  await expect(step).toContainText("Twist");

  await page.keyboard.press("PageDown");
  await expect(step).toContainText("The chip is in its socket");
  await page.keyboard.press("PageDown");
  await expect(step).toContainText("Photograph the paste");
  await page.locator("[data-step-photo]").setInputFiles({ name: "print.png", mimeType: "image/png", buffer: png });
  await expect(step).toHaveText("Which print is it?");
  await page.getByRole("button", { name: "a ring or a spot" }).click();
  for (const next of [
    "Which way the air goes",
    "Plug first",
    "Paste:",
    "Set it down",
    "Tighten across",
    "Fan on",
    "Fans to their headers",
    "Every plug of the list",
  ]) {
    if (next !== "Which way the air goes") {
      await page.keyboard.press("PageDown");
    } else {
      await expect(step).toContainText("Clean both faces");
      await page.keyboard.press("PageDown");
    }
    await expect(step).toContainText(next);
  }

  // What was pulled is ticked back in, one by one.
  await expect(page.getByRole("button", { name: "2 still out" })).toBeDisabled();
  await page.getByLabel("CPU fan on CPU").check();
  await page.getByLabel("case fan on SYS").check();
  await page.getByRole("button", { name: "All of them" }).click();
  await expect(step).toContainText("Card back");

  // The mount that was lifted has its print, and the one that was made stands on the sheet.
  const setups = async () =>
    (
      (await (await page.request.get(`/api/jobs/${sheet.split("/").at(-1)}`)).json()) as {
        setups: { name: string; mounts: { values: { print: string | null } }[] }[];
      }
    ).setups;
  await expect.poll(async () => (await setups())[1]?.name).toBe("Setup 2 repaired, new paste");
  expect((await setups())[0]!.mounts[0]!.values.print).toBe("ring-or-spot");
});
