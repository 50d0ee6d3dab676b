import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { expect, test as base, type Page } from "@playwright/test";

const data = new URL("../Remedos.Core.Tests/Data/", import.meta.url);

/** A log of the examples, by its folder and name. */
export const example = (name: string) => new URL(name, data).pathname;

/** A picture of one pixel. */
export const png = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

/** For pages that are made to fail, and say so in the console. */
export const unwatched = base;

/** Every page must stay silent in the console and ask no other host. */
export const test = base.extend<{ watched: void }>({
  watched: [
    async ({ page, baseURL }, use) => {
      const complaints: string[] = [];
      page.on("console", (message) => {
        // A refused request is told by the browser itself; the page's own sentence is what the tests look at.
        if (message.type() === "error" && !message.text().startsWith("Failed to load resource")) {
          complaints.push(message.text());
        }
      });
      page.on("pageerror", (error) => complaints.push(error.message));
      page.on("request", (request) => {
        if (!request.url().startsWith(baseURL!) && !/^(data|blob):/.test(request.url())) {
          complaints.push(`asked ${request.url()}`);
        }
      });
      await use();
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** Takes in a machine with the intake filled, and stands on its sheet. */
export async function newMachine(page: Page, owner: string) {
  await page.goto("/jobs");
  await page.getByRole("button", { name: "New machine" }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
  await page.getByLabel("Owner", { exact: true }).fill(owner);
  await page.getByLabel("Machine", { exact: true }).fill("Desk machine, tower cooler, three years");
  await page.getByLabel("What the owner noticed").fill("Loud and slow in the afternoon");
  await page.getByLabel("Processor’s temperature limit").fill("100");
  await page.getByLabel("Processor’s rated power").fill("115");
  await page.getByLabel("Room", { exact: true }).fill("23,5");
  await page.getByLabel("Serial number").focus();
  await expect(now(page)).toContainText("Look and listen");
}

export const now = (page: Page) => page.getByRole("region", { name: "Now" });
export const section = (page: Page, name: string) => page.getByRole("region", { name, exact: true });

/** Opens a section that is not open yet; the step that is next stands open by itself. */
export async function openSection(page: Page, name: string) {
  const trigger = section(page, name).getByRole("button", { expanded: false, name: new RegExp(`^${name}`) });
  await section(page, name).waitFor();
  if (await trigger.isVisible()) {
    await trigger.click();
  }
}

/** Drops a real file the way a hand does: it hovers over the page, then falls on one of the two sides. */
export async function dropLog(page: Page, side: "before" | "after", path: string, name = basename(path)) {
  const bytes = readFileSync(path).toString("base64");
  const transfer = await page.evaluateHandle(
    ([content, fileName]) => {
      const transfer = new DataTransfer();
      const raw = Uint8Array.from(atob(content!), (letter) => letter.charCodeAt(0));
      transfer.items.add(new File([raw], fileName!));
      return transfer;
    },
    [bytes, name],
  );
  await page.dispatchEvent("body", "dragenter", { dataTransfer: transfer });
  await page.locator(`[data-drop=${side}]`).dispatchEvent("drop", { dataTransfer: transfer });
}
