import { expect, newMachine, test, unwatched } from "./bench";
import type { Page } from "@playwright/test";

const nobody = { cookies: [], origins: [] };

/** Signs the page in as one of the demo's people, by a touch. */
async function touch(page: Page, name: string) {
  await page.goto("/jobs");
  await page.getByRole("button", { name: new RegExp(`^${name}`) }).click();
  await expect(page.getByRole("button", { name: `${name} works here; change` })).toBeVisible();
}

test("a touch lets somebody in, a colleague takes over by PIN, and each change names who made it", async ({
  browser,
}) => {
  const context = await browser.newContext({ storageState: nobody });
  const page = await context.newPage();
  await touch(page, "Odhran");
  await newMachine(page, "Herring dock");
  const sheet = page.url();
  await page.getByLabel("Contact").fill("by the winch");
  await page.getByRole("button", { name: "Odhran works here; change" }).click();
  await page.getByRole("button", { name: "Mirela" }).click();
  await page.getByLabel("Mirela’s PIN").fill("2581");
  await page.getByRole("button", { name: "Mirela takes over" }).click();
  await expect(page.getByRole("alert")).toHaveText("That is not Mirela’s PIN.");
  await page.getByLabel("Mirela’s PIN").fill("2580");
  await page.getByRole("button", { name: "Mirela takes over" }).click();
  await expect(page.getByRole("button", { name: "Mirela works here; change" })).toBeVisible();

  // What Odhran had just typed went out in his name, and Mirela is asked before she takes it back.
  expect(page.url()).toBe(sheet);
  await expect(page.getByLabel("Contact")).toHaveValue("by the winch");
  await page.getByRole("button", { name: /^Undo: contact.*Odhran/ }).click();
  await expect(page.getByRole("alertdialog", { name: "Another person’s change" })).toContainText("Odhran changed this");
  await page.getByRole("button", { name: "Leave it" }).click();
  await page.getByLabel("Serial number").fill("HD-2");
  await page.getByLabel("Serial number").blur();
  await page.getByRole("button", { name: "All changes" }).click();
  const changes = page.getByRole("list", { name: "All changes, the latest first" });
  await expect(changes.getByRole("listitem").first()).toContainText("Mirela");
  await expect(changes.getByRole("listitem").nth(1)).toContainText("Odhran");
  await context.close();
});

test("a sign-in that was ended elsewhere asks who it is, and what was typed is sent after it", async ({ browser }) => {
  const context = await browser.newContext({ storageState: nobody });
  const page = await context.newPage();
  await touch(page, "Mirela");
  await newMachine(page, "Ice house");
  // What is typed is on its way when the sign-in is ended, as a lead or another device would.
  let ended = () => {};
  const end = new Promise<void>((resolve) => (ended = resolve));
  await page.route("**/fields/contact", async (route) => {
    await end;
    await route.continue();
  });
  await page.getByLabel("Contact").fill("typed when the sign-in was gone");
  await page.evaluate(async () => {
    const { token } = await (await fetch("/api/session")).json();
    await fetch("/api/sign-out", { method: "POST", headers: { "X-Remedos-Token": token } });
  });
  ended();
  await expect(page.getByRole("heading", { name: "Who works at this screen?" })).toBeVisible();
  const sheet = page.url();
  await page.getByRole("button", { name: /^Mirela/ }).click();
  await expect(page.getByLabel("Contact")).toHaveValue("typed when the sign-in was gone");
  expect(page.url()).toBe(sheet);
  await page.reload();
  await expect(page.getByLabel("Contact")).toHaveValue("typed when the sign-in was gone");
  await context.close();
});

test("who looks on reads everything and changes nothing", async ({ browser }) => {
  const context = await browser.newContext({ storageState: nobody });
  const page = await context.newPage();
  await touch(page, "Jory");
  await expect(page.getByText("Jory looks on here: everything can be read, and nothing is changed.")).toBeVisible();
  await page.getByRole("button", { name: "New machine" }).click();
  await expect(page.getByRole("alert")).toContainText("You may look at everything here and change nothing.");
  await page.getByRole("link", { name: /^SL-/ }).first().click();
  await page.getByRole("button", { name: "Intake, done" }).click();
  await expect(page.locator("[data-field=owner]")).toBeDisabled();
  await page.goto("/workshop");
  await expect(page.getByLabel("Workshop", { exact: true })).toBeDisabled();
  await context.close();
});

test("a lead takes somebody on, whose link leads in once, and reads who did what", async ({ page, browser }) => {
  await page.goto("/workshop");
  const people = page.getByRole("region", { name: "People" });
  await people.getByRole("button", { name: "Add a person" }).click();
  await people.getByLabel("Name").fill("Sunniva");
  await people.getByRole("button", { name: "Add them" }).click();
  await people.getByRole("button", { name: /^Sunniva/ }).click();
  await people.getByRole("button", { name: "Link to sign in" }).click();
  const link = await people.getByText(/\/join#/).textContent();

  const context = await browser.newContext({ storageState: nobody });
  const newcomer = await context.newPage();
  await newcomer.goto(link!);
  await expect(newcomer.getByRole("heading", { name: "Welcome, Sunniva" })).toBeVisible();
  await newcomer.getByLabel("Name to sign in by").fill("sunniva");
  await newcomer.getByLabel("Password").fill("passwordpassword");
  await newcomer.getByRole("button", { name: "Come in" }).click();
  await expect(newcomer.getByRole("alert")).toContainText("would be guessed soon");
  await newcomer.getByLabel("Password").fill("slow tide under nine lanterns");
  await newcomer.getByRole("button", { name: "Come in" }).click();
  await expect(newcomer.getByRole("button", { name: "Sunniva works here; change" })).toBeVisible();
  await newcomer.goto(link!);
  await expect(newcomer.getByRole("alert")).toContainText("This link was used");
  await context.close();

  await page.goto("/workshop/log");
  await page.getByRole("radio", { name: "Who came and went" }).click();
  await expect(
    page.getByRole("listitem").filter({ hasText: "Sunniva" }).filter({ hasText: "signed in" }).first(),
  ).toBeVisible();
});

test("an owner's data are found and erased, after a question", async ({ page }) => {
  await newMachine(page, "Pettibone Cordage");
  const sheet = page.url();
  await expect(page.getByRole("button", { name: /^Undo/ })).toBeVisible();
  await page.goto("/workshop");
  const owners = page.getByRole("region", { name: "Owners’ data" });
  await owners.getByLabel("Whose, by name or contact").fill("pettib");
  await owners.getByRole("button", { name: "Erase …" }).click();
  const question = owners.getByRole("alertdialog", { name: "Erase an owner’s data" });
  await expect(question).toContainText("go from 1 job, and cannot be brought back");
  await question.getByRole("button", { name: "Erase for good" }).click();
  await expect(owners.getByText("Nobody by that name or contact.")).toBeVisible();
  await page.goto(sheet);
  await expect(page.getByLabel("Owner", { exact: true })).toHaveValue("");
  await page.getByRole("button", { name: "All changes" }).click();
  await expect(page.getByText("something of the owner, erased since").first()).toBeVisible();
  await expect(page.getByText("Pettibone")).toHaveCount(0);
});

/** With the browser's own stand-in for a device's lock. */
unwatched("a passkey is made and signs in without a password", async ({ browser, baseURL }) => {
  const context = await browser.newContext({
    storageState: nobody,
    baseURL: baseURL!.replace("127.0.0.1", "localhost"),
  });
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send("WebAuthn.enable");
  await devtools.send("WebAuthn.addVirtualAuthenticator", {
    options: {
      protocol: "ctap2",
      transport: "internal",
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await touch(page, "Odhran");
  await page.goto("/account");
  const passkeys = page.getByRole("region", { name: "Passkeys" });
  await passkeys.getByLabel("Add this device; called").fill("Bench tablet");
  await passkeys.getByRole("button", { name: "Add a passkey" }).click();
  await expect(passkeys.getByRole("listitem")).toContainText("Bench tablet");
  const answered = await page.evaluate(async () => {
    const session = await (await fetch("/api/session")).json();
    await fetch("/api/sign-out", { method: "POST", headers: { "X-Remedos-Token": session.token } });
    const { token } = await (await fetch("/api/session")).json();
    const headers = { "X-Remedos-Token": token, "Content-Type": "application/json" };
    const options = await (
      await fetch("/api/sign-in/passkey/challenge", { method: "POST", headers: { "X-Remedos-Token": token } })
    ).json();
    const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(options);
    const shown = (await navigator.credentials.get({ publicKey })) as PublicKeyCredential;
    const body = JSON.stringify({ credential: JSON.stringify(shown.toJSON()) });
    const first = await fetch("/api/sign-in/passkey", { method: "POST", headers, body });
    // The same answer once more is no answer: its challenge is over.
    const renewed = await (await fetch("/api/session")).json();
    const again = { ...headers, "X-Remedos-Token": renewed.token };
    await fetch("/api/sign-out", { method: "POST", headers: again });
    const last = await (await fetch("/api/session")).json();
    const replayed = await fetch("/api/sign-in/passkey", {
      method: "POST",
      headers: { ...headers, "X-Remedos-Token": last.token },
      body,
    });
    return [first.status, replayed.status];
  });
  expect(answered).toEqual([204, 401]);
  await context.close();
});
