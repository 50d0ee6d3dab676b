import { dropLog, example, expect, newMachine, now, section, test } from "./bench";

const headline = "heading";

/** Everything on a sheet is said of one pair; another setup, load or subject changes all of it at once. */
test("the sheet speaks of one pair, and of another when it is asked to", async ({ page }) => {
  await page.goto("/jobs?search=film+club");
  await page.getByRole("link", { name: /SL-0422/ }).click();
  const pair = page.getByRole("group", { name: "What is compared" });
  await expect(pair.getByLabel("Judged")).toHaveValue("4");
  const first = await page.getByRole(headline, { level: 1 }).textContent();

  // The series: four setups, ranked, with what cannot be told apart joined.
  const series = page.getByRole("region", { name: "Series" });
  await expect(series.getByRole("row")).toHaveCount(5);
  await expect(series.getByRole("row").nth(1)).toContainText("Rill 240");
  await expect(series.getByRole("img")).toHaveAttribute("aria-label", /Setup 1 as it came: \d/);

  await pair.getByLabel("Judged").selectOption("2");
  await expect(page.getByRole(headline, { level: 1 })).not.toHaveText(first!);
  await expect(page.getByRole("figure", { name: /^Run trace/ })).toHaveAttribute(
    "aria-label",
    /Mullion Hush 2: \d+ °C sustained/,
  );
  await expect(page).toHaveURL(/compared=2/);
  // The owner's page is of the same pair, and back leads to it.
  await page.goto(page.url().replace("?", "/handover?"));
  await expect(page.getByRole("article")).toContainText(/\d+ °C/);
  await page.getByRole("link", { name: /SL-0422/ }).click();
  await expect(pair.getByLabel("Judged")).toHaveValue("2");
  await pair.getByRole("button", { name: "Back to what leaves" }).click();
  await expect(page.getByRole(headline, { level: 1 })).toHaveText(first!);
});

test("the graphics card has its own figures, staircase and verdict", async ({ page }) => {
  await page.goto("/jobs?search=flight+simulator");
  await page.getByRole("link", { name: /SL-0425/ }).click();
  await page.getByRole("radio", { name: "Graphics card" }).click();
  await expect(page.getByRole(headline, { level: 1 })).toContainText(/°C cooler ± [\d.]+ at 320\sW/);
  await expect(
    page.getByRole("figure", { name: /^Graphics card: its air \d+ °C, core \d+ °C, hot spot \d+ °C/ }),
  ).toBeVisible();
  await expect(page.getByLabel("Key figures")).toContainText("hot spot");
});

test("a repair that made it worse opens the next round, which keeps what was found", async ({ page }) => {
  await newMachine(page, "Lifeboat house");
  // The better machine first, so that the repair looks bad.
  await dropLog(page, "before", example("runs/03-paste-after.csv"));
  await expect(section(page, "Before").getByRole("article")).toBeVisible();
  await dropLog(page, "after", example("runs/02-paste-before.csv"));
  await expect(page.getByRole(headline, { level: 1 })).toContainText("Worse: 1");
  await expect(now(page)).toContainText("Open round 2");
  await now(page).getByRole("button", { name: "Open round 2" }).click();
  await expect(page.getByRole("list", { name: "Earlier rounds" })).toContainText("it got worse");
  await expect(page.getByRole("list", { name: "Earlier rounds" })).toContainText("Worse:");

  // A print on lifting belongs to the mount that was lifted; a try that was given up stands outside the verdict.
  const setup = page.getByRole("region", { name: "Setup 2 after the repair" });
  await setup.getByRole("radio", { name: "a ring or a spot" }).click();
  await setup.getByLabel("Why it was abandoned").fill("Sat on a stand-off");
  await setup.getByLabel("Why it was abandoned").blur();
  await expect(page.getByText("abandoned: Sat on a stand-off")).toBeVisible();
  await expect(page.getByRole("group", { name: "What is compared" }).getByLabel("Judged")).toHaveValue("0");

  // A run is said to have been made on another mount, and undo takes it back.
  await section(page, "Before").getByLabel("Measured on").selectOption({ label: "Setup 2 after the repair" });
  await expect(section(page, "Before").getByRole("article")).toHaveCount(0);
  await page.getByRole("button", { name: /Undo: what a run was measured on/ }).click();
  await expect(section(page, "Before").getByRole("article")).toHaveCount(1);
});
