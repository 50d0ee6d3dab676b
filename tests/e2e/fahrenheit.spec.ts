import { expect, openSection, test } from "./bench";

/** A project of its own, after all others: the setting is the whole workshop's. */
test.describe.configure({ mode: "serial" });

const inCelsius = /\d\s?°C(?!\/W)/;

async function readIn(page: import("@playwright/test").Page, unit: "°C" | "°F") {
  await page.goto("/workshop");
  const choice = page.getByRole("radiogroup", { name: "Temperatures" }).getByRole("radio", { name: unit });
  await choice.click();
  await expect(choice).toBeChecked();
}

test("a workshop that reads °F sees no °C, types °F, and its second page follows", async ({ page, context }) => {
  const other = await context.newPage();
  await other.goto("/jobs");
  await other.getByRole("link", { name: /SL-0412/ }).click();
  await expect(other.getByRole("heading", { level: 1 })).toContainText(/at \d\d\s°C/);
  const sheet = new URL(other.url()).pathname;
  const before = Number(/at (\d\d)\s°C/.exec((await other.getByRole("heading", { level: 1 }).textContent())!)![1]);
  await readIn(page, "°F");
  try {
    // Another page learns of it by its next answer, and tells all anew, what it had fetched before as well.
    await other.getByRole("link", { name: "Jobs", exact: true }).click();
    await expect(other.getByRole("main")).toContainText("°F");
    await expect
      .poll(async () => (await other.getByRole("main").innerText()).split("\n").filter((line) => inCelsius.test(line)))
      .toEqual([]);
    await other.goBack();
    const heading = other.getByRole("heading", { level: 1 });
    await expect(heading).toContainText("°F");
    const after = Number(/at (\d+)\s°F/.exec((await heading.textContent())!)![1]);
    expect(Math.abs(after - (before * 1.8 + 32))).toBeLessThanOrEqual(1);

    for (const path of [
      sheet,
      `${sheet}/handover`,
      "/jobs",
      "/bench",
      "/records",
      `/coolers?job=${sheet.split("/").pop()}`,
      `/air?job=${sheet.split("/").pop()}`,
    ]) {
      await page.goto(path);
      await expect(page.getByRole("main")).toContainText(/\w/);
      await page.waitForLoadState("networkidle");
      await expect
        .poll(
          async () => (await page.getByRole("main").innerText()).split("\n").filter((line) => inCelsius.test(line)),
          {
            message: path,
          },
        )
        .toEqual([]);
    }

    // What is typed is °F; what is kept is °C.
    await page.goto(sheet);
    await openSection(page, "Intake");
    const room = page.getByLabel("Room", { exact: true });
    const was = await room.inputValue();
    await room.fill("72");
    await expect
      .poll(
        async () =>
          (
            (await (await page.request.get(`/api${sheet}`)).json()) as {
              fields: { roomC: number };
            }
          ).fields.roomC,
      )
      .toBeCloseTo(22.2222, 3);
    await room.fill(was);
    await expect(room).toHaveValue(was);
  } finally {
    await readIn(page, "°C");
  }
  await page.goto(sheet);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(`${before}\u00a0°C`);
});
