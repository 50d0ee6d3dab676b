import AxeBuilder from "@axe-core/playwright";
import { expect, newMachine, now, section, test } from "./bench";

/** Every main view, by hand: keyboard, narrow screen, both themes, and what an automatic check of accessibility finds. */
const views = [
  ["jobs", async () => undefined],
  ["job", async (page) => void (await page.getByRole("link", { name: /SL-0412/ }).click())],
  [
    "open job",
    async (page) => {
      await page.getByRole("link", { name: /SL-0414/ }).click();
      for (const step of ["Intake", "Look", "Before", "Diagnosis", "Repair", "Handover"]) {
        await section(page, step)
          .getByRole("button", { name: new RegExp(`^${step}`) })
          .click();
      }
    },
  ],
  [
    "owner’s page",
    async (page) => {
      await page.getByRole("link", { name: /SL-0412/ }).click();
      await page.getByRole("button", { name: "Open the owner’s page" }).click();
      await expect(page.getByRole("img")).toHaveCount(3);
    },
  ],
  [
    "one bay",
    async (page) => {
      await page.goto("/bench");
      await page.getByRole("button", { name: "Add a bay" }).click();
      await page
        .getByRole("link", { name: /^Bay \d/ })
        .last()
        .click();
      await expect(page.getByRole("heading", { name: "Connection" })).toBeVisible();
    },
  ],
  [
    "coolers",
    async (page) => {
      await page.goto("/coolers");
      await page.getByLabel("A cooler for").selectOption({ label: "SL-0420 Tern Point pilots" });
      await page.getByText("Does not fit").click();
      await page.getByLabel("side by side").nth(0).check();
      await page.getByLabel("side by side").nth(1).check();
      await expect(page.getByRole("region", { name: "Side by side" })).toBeVisible();
    },
  ],
  [
    "air",
    async (page) => {
      await page.goto("/air");
      await page.getByLabel("The air of").selectOption({ label: "SL-0415 Lindqvist Land Survey" });
      await page.getByRole("button", { name: /^Rear fan/ }).focus();
      await page.keyboard.press("Enter");
      await expect(page.getByRole("region", { name: "Panel and filter", exact: true })).toBeVisible();
    },
  ],
  [
    "air’s steering",
    async (page) => {
      await page.goto("/air");
      await page.getByLabel("The air of").selectOption({ label: "SL-0415 Lindqvist Land Survey" });
      await page.getByRole("tab", { name: "Steering" }).click();
      await expect(page.getByRole("button", { name: "Take these points" })).toBeVisible();
    },
  ],
  [
    "the options",
    async (page) => {
      await page.getByRole("link", { name: /SL-0421/ }).click();
      await page.goto(page.url().replace(/[?#].*|$/, "/decide"));
      await page.getByRole("button", { name: "All of it" }).first().click();
      await expect(page.getByText("Cannot be undone")).toBeVisible();
    },
  ],
  [
    "the day",
    async (page) => {
      await page.goto("/jobs/day");
      await page.getByText("Who and what is here").click();
      await expect(page.getByRole("group", { name: "Hours of this day" })).toBeVisible();
    },
  ],
  [
    "quote and bill",
    async (page) => {
      await page.getByRole("link", { name: /SL-0412/ }).click();
      await page.goto(page.url().replace(/[?#].*|$/, "/papers"));
      await expect(page.getByRole("heading", { name: "Bill B-0001" })).toBeVisible();
    },
  ],
  [
    "the owner’s page and its links",
    async (page) => {
      await page.getByRole("link", { name: /SL-0412/ }).click();
      await page.goto(page.url().replace(/[?#].*|$/, "/handover"));
      await expect(page.getByText("Bill B-0001")).toBeVisible();
    },
  ],
  [
    "measure first",
    async (page) => {
      await page.getByRole("link", { name: /SL-0419/ }).click();
      await page.goto(page.url().replace(/\/jobs\/([^?#]*).*/, "/coolers?job=$1"));
      await expect(page.getByRole("region", { name: "Room for a cooler’s height" })).toBeVisible();
    },
  ],
  [
    "a repair’s step",
    async (page) => {
      await page.getByRole("link", { name: /SL-0413/ }).click();
      await page.getByRole("link", { name: "Go on with it" }).click();
      await expect(page.getByRole("heading", { level: 1 })).toContainText("Loosen across");
    },
  ],
  [
    "parts",
    async (page) => {
      await page.goto("/coolers/parts");
      await page.getByRole("button", { name: /^Corvane Ridge 3/ }).click();
      await expect(page.getByRole("form", { name: "Corvane Ridge 3" })).toBeVisible();
    },
  ],
  [
    "records",
    (page) =>
      page.goto("/records").then(() => expect(page.getByRole("img", { name: /^Rill 240, how many/ })).toBeVisible()),
  ],
  [
    "practice",
    (page) =>
      page.goto("/practice").then(() => expect(page.getByRole("link", { name: /of 100$/ }).nth(3)).toBeVisible()),
  ],
  [
    "a debrief",
    async (page) => {
      await page.goto("/practice");
      await page
        .getByRole("link", { name: /of 100$/ })
        .last()
        .click();
      await expect(page.getByRole("region", { name: "Where the information lay" })).toBeVisible();
    },
  ],
  [
    "the workshop and its people",
    async (page) => {
      await page.goto("/workshop");
      await page.getByRole("button", { name: /^Jory/ }).click();
      await expect(page.getByRole("button", { name: "Has left" })).toBeVisible();
    },
  ],
  [
    "the log",
    (page) => page.goto("/workshop/log").then(() => expect(page.getByRole("listitem").first()).toBeVisible()),
  ],
  [
    "one’s own sign-in",
    (page) =>
      page.goto("/account").then(() => expect(page.getByRole("heading", { name: "Signed in at" })).toBeVisible()),
  ],
  [
    "who works here",
    async (page) => {
      await page.getByRole("button", { name: "Ines works here; change" }).click();
      await page.getByRole("button", { name: "Odhran" }).click();
    },
  ],
  [
    "bench",
    (page) => page.goto("/bench").then(() => expect(page.getByRole("button", { name: "Add a bay" })).toBeVisible()),
  ],
] as const satisfies readonly (readonly [string, (page: import("@playwright/test").Page) => Promise<void>])[];

for (const [name, go] of views) {
  for (const colorScheme of ["light", "dark"] as const) {
    test(`${name} in the ${colorScheme} theme is accessible and fits a phone`, async ({ page }) => {
      await page.emulateMedia({ colorScheme });
      await page.goto("/jobs");
      await expect(page.getByRole("link", { name: /SL-0412/ })).toBeVisible();
      await go(page);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      await expect(page.getByText(/^Fetching/)).toHaveCount(0);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(
        violations.map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.html).join(" ")}`),
      ).toEqual([]);
      await page.setViewportSize({ width: 390, height: 844 });
      // Canvases follow a moment after the window.
      await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    });
  }
}

test("targets are large enough for a thumb", async ({ page }) => {
  await page.goto("/jobs");
  await page.getByRole("link", { name: /SL-0413/ }).click();
  await expect(section(page, "Repair").getByLabel("Found")).toBeVisible();
  const small = await page.evaluate(() =>
    [...document.querySelectorAll("button, a, input, textarea, select")]
      .filter((element) => element.checkVisibility() && !element.classList.contains("sr-only"))
      .map((element) => ({ box: element.getBoundingClientRect(), words: element.outerHTML.slice(0, 90) }))
      .filter(({ box }) => box.height > 0 && box.height < 44)
      .map(({ words }) => words),
  );
  expect(small).toEqual([]);
});

test("keys reach everything", async ({ page }) => {
  await page.goto("/jobs");
  await expect(page.getByRole("link", { name: /SL-0412/ })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("heading", { name: "Shortcuts" })).toBeVisible();
  await page.keyboard.press("Escape");
  // Closing the list gives the focus back a moment later; whoever types before that would lose letters.
  await expect(page.getByRole("button", { name: "Shortcuts" })).toBeFocused();
  await page.keyboard.press("/");
  await page.keyboard.type("observatory");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("One machine found");
  await expect(page).toHaveURL(/search=observatory/);
  await page.keyboard.press("Escape");
  await page.keyboard.press("j");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Fixed:");
  await page.keyboard.press("g");
  await page.keyboard.press("j");
  await expect(page).toHaveURL(/\/jobs$/);
  await expect(page.getByRole("link", { name: /SL-0412/ })).toBeVisible();
  await page.keyboard.press("n");
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}/);
  await expect(now(page)).toContainText("Complete the intake");
  await page.keyboard.press(".");
  await expect(page.getByLabel("Owner", { exact: true })).toBeFocused();
});

test("a tag says what the machine waits for, and the list can be filtered and linked to", async ({ page }) => {
  await newMachine(page, "Lock keeper");
  await page.goto("/jobs?waits=test");
  const tag = page.getByRole("link", { name: /Lock keeper/ });
  await expect(tag).toContainText("waits for a test");
  await page.getByRole("radio", { name: /^Gone/ }).click();
  await expect(tag).toHaveCount(0);
  await expect(page.getByRole("link", { name: /translator/ })).toContainText("handed over");
  await page.goto("/jobs?search=nobody+of+this+name");
  await page.getByRole("button", { name: "Show all machines" }).click();
  await tag.click();
  await page.getByRole("radio", { name: "A part" }).click();
  await expect(page.getByText("waits for a part")).toBeVisible();
  await expect(now(page)).toBeVisible();
});
