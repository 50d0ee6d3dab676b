import { dropLog, example, expect, newMachine, now, openSection, section, test } from "./bench";

/** A hot machine comes in, is measured, repaired, measured again and handed over: all of it in the browser, with real files. */
test("from intake to the owner's page", async ({ page }) => {
  await newMachine(page, "Ferry ticket office");

  // The before run, dropped.
  await dropLog(page, "before", example("runs/02-paste-before.csv"));
  const before = section(page, "Before");
  await expect(before.getByRole("article")).toContainText("88.3 °C");
  await expect(before.getByRole("article")).toContainText("0.583 ± 0.003");
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Within its limit: 88 °C");
  await expect(page.locator("[data-lane] canvas")).toHaveCount(4);

  // Where the heat sticks needs the kind of cooler to be judged.
  await expect(page.getByText(/^Most is lost from/)).toBeVisible();

  // Its conditions: a lower limit turns the finding; set back, it is as before.
  await before.getByLabel("Temperature limit").fill("95");
  await before.getByLabel("Temperature limit").press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toContainText("7 °C headroom");
  await before.getByRole("radio", { name: "Heaviest" }).click();
  await expect(before.getByRole("radio", { name: "Heaviest" })).toHaveAttribute("aria-checked", "true");

  // The column desk: what each column is taken for, and one overruled and taken back.
  await before.getByRole("button", { name: /columns/ }).click();
  const fan = before.getByLabel("What cpu_fan_rpm is");
  await expect(fan).toHaveValue("cpu-fan-speed");
  await fan.selectOption("case-fan-speed");
  await expect(before.getByRole("row", { name: /cpu_fan_rpm/ })).toContainText("said");
  await expect(page.locator("[data-lane] canvas")).toHaveCount(3);
  await page.getByRole("button", { name: /Undo: what a column is/ }).click();
  await expect(fan).toHaveValue("cpu-fan-speed");

  // The repair note saves as it is typed.
  await openSection(page, "Repair");
  const repair = section(page, "Repair");
  await repair.getByLabel("Found").fill("Paste dried to a crust");
  await repair.getByLabel("Done and replaced").fill("Cooler cleaned and seated with new paste");
  await repair.getByLabel("Time at the bench").fill("40");
  await expect(now(page)).toContainText("Record the after run");
  await expect(now(page)).toContainText("vector");

  // What was changed makes the next setup, with one tap; its paste and date are its own.
  await repair.getByRole("button", { name: "Repaired", exact: true }).click();
  const setup = page.getByRole("region", { name: "Setup 2 after the repair" });
  await setup.getByLabel("Paste", { exact: true }).fill("Tallow Grey 5");
  await setup.getByLabel("How it was put on").blur();
  const repaired = page.getByRole("region", { name: "Setup 2 repaired, Tallow Grey 5" });
  await repaired.getByRole("button", { name: "Now" }).click();

  // Nothing of the after run is taken over from the before run: what is not known is asked for, each with one tap.
  await dropLog(page, "after", example("runs/03-paste-after.csv"));
  await expect(page.getByRole("heading", { level: 1 })).toContainText(
    "Better: 17 °C cooler ± 3.1 at 111 W; it now holds 109 W at 72 °C.",
  );
  await expect(page.getByLabel("Fairness of the comparison")).toContainText("Load is not known on the after side");
  for (const run of ["02-paste-before.csv", "03-paste-after.csv"]) {
    const asked = page.getByRole("group", { name: `Not known of ${run}` });
    if (run.startsWith("03")) {
      await asked.getByRole("button", { name: "Heaviest" }).click();
    }
    await asked.getByRole("button", { name: "Closed" }).click();
    await asked.getByRole("button", { name: "By themselves" }).click();
    await expect(asked).toHaveCount(0);
  }
  await expect(page.getByLabel("Fairness of the comparison")).toContainText("Same load, panel and fans");
  await expect(page.getByRole("figure", { name: /^Run trace/ })).toHaveAttribute(
    "aria-label",
    /as it came: 88 °C sustained.*repaired, Tallow Grey 5: 72 °C sustained.*limit 100 °C/,
  );
  await expect(page.getByLabel("Key figures")).toContainText("−17 °C");
  await expect(page.getByLabel("Key figures")).toContainText("measured, it matters");

  // The owner's page.
  await page.reload();
  await expect(now(page)).toContainText("Let the paste settle, then run once more");
  await now(page).getByRole("button", { name: "or hand over now" }).click();
  const paper = page.getByRole("article");
  await expect(paper.getByRole("heading", { level: 1 })).toHaveText("It runs cooler.");
  await expect(paper).toContainText("Loud and slow in the afternoon.");
  await expect(paper).toContainText("Cooler cleaned and seated with new paste.");
  await expect(paper).toContainText("give or take 3.1 °C, nineteen times out of twenty");
  await expect(paper.getByRole("img")).toHaveCount(3);
  await expect(page.getByText(/the paste has settled by then/)).toBeVisible();
  await page
    .getByRole("button", { name: /^\d+ \w+ \d{4}$/ })
    .first()
    .click();
  await expect(paper).toContainText(/Please bring it back for a recheck on \d+ \w+ \d{4}/);
  await page.getByRole("button", { name: "Mark as handed over" }).click();
  await expect(page.getByText(/Handed over on/)).toBeVisible();
  await page.goBack();
  await expect(now(page)).toContainText("Nothing to do");
});

test("the owner's page fits one sheet of paper", async ({ page }) => {
  await page.goto("/jobs?search=boat+builder");
  await page.getByRole("link", { name: /SL-0412/ }).click();
  await page.getByRole("button", { name: "Open the owner’s page" }).click();
  await expect(page.getByRole("img")).toHaveCount(3);
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
});
