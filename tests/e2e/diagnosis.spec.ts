import { dropLog, example, expect, newMachine, section, test } from "./bench";

test("answers move the ladder of causes, and a check leads to the bench", async ({ page }) => {
  await newMachine(page, "Lamp workshop");
  const job = page.url().replace(/#.*/, "");
  await page.goto(job);
  const diagnosis = section(page, "Diagnosis");
  await diagnosis.getByRole("button", { name: /^Diagnosis/ }).click();
  const check = diagnosis.getByRole("region", { name: "Next check" });
  // The owner's words come first, for they cost a minute; one tap answers.
  await expect(check).toContainText("How it began");
  await check.getByRole("button", { name: "gradual" }).click();
  await expect(check).not.toContainText("How it began");
  await diagnosis.getByText("Look and feel").click();
  await diagnosis.getByRole("radiogroup", { name: "Dust", exact: true }).getByRole("radio", { name: "heavy" }).click();
  await diagnosis.getByRole("radiogroup", { name: "Paste print" }).getByRole("radio", { name: "full" }).click();
  await expect(diagnosis.getByRole("listitem").first()).toContainText("Fins or filters clogged with dust");
  await expect(diagnosis.getByRole("listitem").first()).toContainText("Dust: heavy.");
  await diagnosis.getByRole("button", { name: "All 19 causes, and why not" }).click();
  await diagnosis.getByRole("button", { name: /^Paste dried out/ }).click();
  await expect(diagnosis).toContainText("Against it");
  // What was touched by mistake is taken back.
  await page.getByRole("button", { name: /^Undo: Paste print/ }).click();
  await expect(
    diagnosis.getByRole("radiogroup", { name: "Paste print" }).getByRole("radio", { name: "full" }),
  ).not.toBeChecked();
  await expect(page.getByRole("navigation", { name: "Order of work" })).toContainText("Diagnosis");
});

test("a before run tells what it shows by itself", async ({ page }) => {
  await newMachine(page, "Bell foundry");
  await dropLog(page, "before", example("runs/02-paste-before.csv"));
  await expect(section(page, "Before")).toContainText("sustained", { timeout: 30_000 });
  const diagnosis = section(page, "Diagnosis");
  await diagnosis.getByText("Read off the runs").click();
  await expect(diagnosis).toContainText("Read off a run or a thermometer; touch another to overrule it.");
  await expect(
    diagnosis.getByRole("radiogroup", { name: "Load at idle" }).getByRole("radio", { name: "quiet" }),
  ).toBeChecked();
});
