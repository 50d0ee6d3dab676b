import { expect, section, test } from "./bench";

// One after the other: they plan the air of the same machine.
test.describe.configure({ mode: "serial" });

const figure = (page: import("@playwright/test").Page, name: string) =>
  page.locator("dl[aria-live] > div").filter({ has: page.getByText(name, { exact: true }) });

/** Where the hand is: the chart workstation, its radiator in front. */
async function open(page: import("@playwright/test").Page) {
  const jobs = (await (await page.request.get("/api/jobs")).json()) as {
    tag: string;
    id: string;
  }[];
  const job = jobs.find((one) => one.tag === "SL-0420")!.id;
  await page.goto(`/air?job=${job}`);
  await expect(page.getByRole("button", { name: /^Radiator/ })).toBeVisible();
  // A try before this one may have left a plan.
  const asItIs = page.getByRole("button", { name: "As it is" });
  if (await asItIs.isEnabled()) {
    await asItIs.click();
    await expect(page.getByText("Kept on the job.")).toBeVisible();
  }
  await expect(page.getByRole("button", { name: /^Radiator, blows in/ })).toBeVisible();
  return job;
}

test("a radiator is dragged to the top, both chips answer, and the plan is kept, undone and compared", async ({
  page,
}) => {
  const job = await open(page);
  const before = Number((await figure(page, "Card").innerText()).match(/\d+/)![0]);
  const radiator = page.getByRole("button", { name: /^Radiator/ });
  const from = (await radiator.boundingBox())!;
  const wall = (await page.getByRole("button", { name: /^Rear fan/ }).boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(wall.x - 150, wall.y + 60, { steps: 5 });
  await page.mouse.move(wall.x - 150, from.y - 14, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: /^Radiator, blows out/ })).toBeVisible();
  await expect(figure(page, "Card")).toContainText("cooler");
  expect(Number((await figure(page, "Card").innerText()).match(/\d+/)![0])).toBeLessThan(before - 3);
  await expect(page.getByText("Kept on the job.")).toBeVisible();

  // Whoever comes back finds it so; undo is one touch, and as it is another.
  await page.reload();
  await expect(page.getByRole("button", { name: /^Radiator, blows out/ })).toBeVisible();
  await page.getByRole("button", { name: "As it is" }).click();
  await expect(page.getByRole("button", { name: /^Radiator, blows in/ })).toBeVisible();
  await expect(page.getByText("Kept on the job.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("button", { name: /^Radiator, blows out/ })).toBeVisible();

  await page.getByRole("button", { name: "Take it: in front, blowing in" }).click();
  await expect(page.getByRole("button", { name: /^Radiator, blows in/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "Where the radiator goes", exact: true })).toContainText(
    "in front, blowing in · now",
  );

  // The job's own history has it.
  await page.goto(`/jobs/${job}`);
  await expect(page.getByText(/the plan of the air/)).toBeVisible();
});

test("fans are turned, taken out and put in by keyboard alone, and what does not go is told", async ({ page }) => {
  await page.goto("/air?parts=1");
  await page.getByRole("combobox", { name: "Processor" }).selectOption("Corbel C125");
  await page.getByRole("combobox", { name: "Case" }).selectOption("Gable Mid");
  await page.getByRole("combobox", { name: "Cooler on it" }).selectOption("Mullion 120");
  await page.getByRole("combobox", { name: "Board" }).selectOption("Quoin B7 Plus");
  const rear = page.getByRole("button", { name: /^Rear fan/ });
  await rear.focus();
  await page.keyboard.press("Enter");
  const chosen = page.getByRole("region", { name: "What is chosen" });
  await chosen.getByRole("button", { name: /^Turn it round/ }).click();
  await expect(rear).toHaveAccessibleName(/blows in/);
  await expect(figure(page, "Pressure")).toContainText("more in than out");
  await chosen.getByRole("radio", { name: "front" }).click();
  await expect(page.getByText("The front takes 2 fans, not 3.").first()).toBeVisible();
  await chosen.getByRole("button", { name: "Take it out" }).click();
  await expect(page.getByText("The front takes 2 fans, not 3.")).toHaveCount(0);
  await page.getByRole("button", { name: /^A fan at the/ }).click();
  await chosen.getByLabel("Which fan").selectOption("Lull 120");
  await expect(chosen).toContainText("m³/h");

  await page.getByRole("radio", { name: "off", exact: true }).click();
  await expect(figure(page, "Air inside")).toContainText("cooler");
});

test("a curve is sought for a limit and a noise, taken over, and drawn by hand", async ({ page }) => {
  await open(page);
  await page.getByRole("tab", { name: "Steering" }).click();
  await page.getByLabel("Processor at most").fill("75");
  await page.getByLabel("Noise, at most").fill("20");
  const points = page.getByRole("region", { name: "Points for the firmware" });
  await expect(points).toContainText("cannot both be had");
  await page.getByLabel("Noise, at most").fill("55");
  await expect(points).toContainText("Enter these points for CPU");
  await points.getByRole("button", { name: "Take these points" }).click();
  const first = page.getByRole("slider", { name: "Point 1", exact: true });
  await first.focus();
  const was = await first.getAttribute("aria-valuetext");
  await page.keyboard.press("ArrowRight");
  await expect(first).not.toHaveAttribute("aria-valuetext", was!);
  // The liquid is slow, and that is said.
  await page.getByRole("radio", { name: "the liquid" }).click();
  await expect(points).toContainText("minutes to get half-way");

  await page.getByRole("tab", { name: "Headers" }).click();
  await page.getByLabel("Pump", { exact: true }).selectOption("CPU");
  await expect(section(page, "What each header carries")).toContainText("The pump is on CPU, which is steered");
  await page.getByRole("button", { name: "As it is" }).click();
});
