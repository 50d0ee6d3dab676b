import { dropLog, example, expect, newMachine, now, png, section, test } from "./bench";

test("parts are chosen or typed, symptoms asked, pictures kept, and the tag opens the job", async ({ page }) => {
  await page.goto("/jobs");
  await page.getByRole("button", { name: "New machine" }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
  const intake = section(page, "Intake");
  await intake.getByLabel("Owner", { exact: true }).fill("Rope walk museum");
  await intake.getByLabel("Machine", { exact: true }).fill("Scanner desk");
  await intake.getByLabel("What the owner noticed").fill("Slow since summer");

  // A known part brings what is known of it; an unknown one can be kept.
  await intake.getByLabel("Processor", { exact: true }).fill("Corbel C65");
  await expect(intake.getByLabel("Processor’s temperature limit")).toHaveValue("95");
  await expect(intake.getByLabel("Processor’s rated power")).toHaveValue("65");
  await intake.getByLabel("Cooler", { exact: true }).fill("Rill 240");
  await expect(intake.getByRole("radio", { name: "Liquid loop" })).toBeChecked();
  const board = `Scarf B${Math.floor(Math.random() * 1e6)}`;
  await intake.getByLabel("Board", { exact: true }).fill(board);
  await intake.getByRole("button", { name: "Add it to the workshop’s parts" }).click();
  await expect(intake.getByRole("button", { name: "Add it to the workshop’s parts" })).toHaveCount(0);
  await expect(intake.locator(`datalist option[value="${board}"]`)).toHaveCount(1);

  // What the owner is asked: not asked, no, yes.
  const off = intake.getByRole("radiogroup", { name: "Switches itself off" });
  await expect(off.getByRole("radio", { name: "not asked" })).toBeChecked();
  await off.getByRole("radio", { name: "yes" }).click();
  await expect(off.getByRole("radio", { name: "yes" })).toBeChecked();
  await off.getByRole("radio", { name: "not asked" }).click();
  await expect(intake.getByText("0 of 9 asked")).toBeVisible();
  await off.getByRole("radio", { name: "no", exact: true }).click();

  // Pictures: chosen, made the proof of purchase, taken off, brought back.
  await intake.getByText("Pictures", { exact: true }).click();
  await page.locator("input[data-photos]").setInputFiles({ name: "receipt.png", mimeType: "image/png", buffer: png });
  await intake.getByRole("button", { name: /receipt.png/ }).click();
  // On a slow line the second touch comes before the first was answered.
  await page.route("**/photos/*/kind", async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 700));
    await route.continue();
  });
  await page.getByRole("button", { name: "It is the proof of purchase" }).click();
  await page.getByRole("button", { name: "Take it off" }).click();
  await expect(intake.getByText("None yet.")).toBeVisible();
  await page.getByRole("button", { name: /^Undo: a picture was taken off/ }).click();
  await expect(intake.getByRole("button", { name: "Proof of purchase: receipt.png" })).toBeVisible();
  await page
    .locator("input[data-photos]")
    .setInputFiles({ name: "notes.png", mimeType: "image/png", buffer: Buffer.from("a,b") });
  await expect(intake.getByRole("alert")).toContainText("“notes.png” is no picture");

  await intake.getByRole("link", { name: "Tag for the machine" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/^SL-\d{4}$/);
  await expect(page.getByRole("article")).toContainText("Rope walk museum");
  const code = page.getByRole("img", { name: /^Code that opens job/ });
  await expect(code).toBeVisible();
  await code.evaluate((image: HTMLImageElement) => image.decode());
});

test("a picture that is dropped on the sheet is kept, wherever it falls", async ({ page }) => {
  await newMachine(page, "Sail loft");
  const transfer = await page.evaluateHandle((content) => {
    const transfer = new DataTransfer();
    const raw = Uint8Array.from(atob(content), (letter) => letter.charCodeAt(0));
    transfer.items.add(new File([raw], "inside.png", { type: "image/png" }));
    return transfer;
  }, png.toString("base64"));
  await page.dispatchEvent("body", "dragenter", { dataTransfer: transfer });
  await page.locator("[data-drop=before]").dispatchEvent("drop", { dataTransfer: transfer });
  await expect(section(page, "Intake").getByRole("button", { name: /inside.png/ })).toBeVisible();
});

test("look and listen leads to the run, tubes tell the flow, and the sheet follows the diagnosis", async ({ page }) => {
  await newMachine(page, "Ice house");
  await section(page, "Intake").getByRole("radio", { name: "Liquid loop" }).click();
  await now(page).getByRole("button", { name: "Go to the list" }).click();
  const look = section(page, "Look");
  await look.getByRole("radiogroup", { name: "Dust", exact: true }).getByRole("radio", { name: "light" }).click();
  await look.getByLabel("One tube").fill("56");
  await look.getByLabel("The other").fill("35,5");
  await look.getByLabel("The other").blur();
  await expect(look).toContainText(/20\.5 °C between the tubes at 115 W: about 0\.0\d L\/min .* hardly any flow/);
  await expect(
    look.getByRole("radiogroup", { name: "Tubes by hand" }).getByRole("radio", { name: "one hot" }),
  ).toBeChecked();
  for (const [name, state] of [
    ["Grinding noise", "no"],
    ["Gurgling", "no"],
    ["Rattling", "no"],
    ["A fan faces the wrong way", "no"],
    ["Something in the blades", "no"],
    ["Leak marks", "no"],
  ]) {
    await look.getByRole("radiogroup", { name: name! }).getByRole("radio", { name: state!, exact: true }).click();
  }
  await expect(now(page)).toContainText("Record the before run");

  // A warranty that runs is offered before the work; once the owner has chosen, the repair is next.
  await dropLog(page, "before", example("runs/04-loop-before.csv"));
  await expect(page.getByRole("heading", { level: 1 })).toContainText(
    /(Likely|Almost certainly): loop nearly blocked/,
    {
      timeout: 30_000,
    },
  );
  const intake = section(page, "Intake");
  await intake.getByRole("radiogroup", { name: "How it began" }).getByRole("radio", { name: "gradual" }).click();
  await intake.getByText("Warranty", { exact: true }).click();
  await intake.getByLabel("Date of purchase").fill(new Date(Date.now() - 200 * 864e5).toISOString().slice(0, 10));
  await intake.getByLabel("Term").fill("36");
  await intake.getByLabel("Term").blur();
  await expect(intake).toContainText("No proof of purchase is kept here yet");
  await expect(now(page)).toContainText("Offer the warranty first");
  await now(page).getByRole("button", { name: "Note what the owner chose" }).click();
  await intake.getByRole("radio", { name: "repair it here" }).click();
  await expect(now(page)).toContainText("Decide: replace the liquid cooler?");
  await now(page).getByRole("button", { name: "Show the options" }).click();
  await expect(page).toHaveURL(/\/decide$/);
  await page.goBack();

  // What it was is noted with one touch.
  const repair = section(page, "Repair");
  await repair.getByRole("button", { name: "Loop nearly blocked" }).click();
  await expect(repair.getByRole("button", { name: "Loop nearly blocked" })).toHaveAttribute("aria-pressed", "true");
});

test("while only the kind of its cooler is known the sheet asks for its parts, and offers the one from the box", async ({
  page,
}) => {
  await newMachine(page, "Tide mill");
  const intake = section(page, "Intake");
  await intake.getByRole("radio", { name: "Tower", exact: true }).click();
  await dropLog(page, "before", example("runs/02-paste-before.csv"));
  await expect(now(page)).toContainText("Note which cooler is on it", { timeout: 30_000 });
  await now(page).getByRole("button", { name: "Note its parts" }).click();
  await expect(intake.getByLabel("Processor", { exact: true })).toBeInViewport();
  await intake.getByLabel("Processor", { exact: true }).fill("Corbel C65");
  await intake.getByRole("button", { name: "It has its box cooler, Sill box cooler" }).click();
  await expect(intake.getByLabel("Cooler", { exact: true })).toHaveValue("Sill box cooler");
  await expect(now(page)).not.toContainText("Note which cooler");
  await expect(intake.getByRole("button", { name: /^It has its box cooler/ })).toHaveCount(0);
});
