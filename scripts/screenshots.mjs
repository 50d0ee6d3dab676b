// Takes the pictures in docs/screenshots from a running demo: node scripts/screenshots.mjs [http://127.0.0.1:5080]
import { chromium } from "@playwright/test";

const address = process.argv[2] ?? "http://127.0.0.1:5080";
const folder = new URL("../docs/screenshots/", import.meta.url).pathname;
const flags = "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync --lang=en-GB";
const jobs = await (await fetch(`${address}/api/jobs`)).json();
const job = (tag) => `/jobs/${jobs.find((one) => one.tag === tag).id}`;

/** name, address, and what is done before the picture is taken */
const views = [
  ["jobs", "/jobs"],
  ["job-before", job("SL-0414")],
  ["job-verdict", job("SL-0412")],
  ["job-verdict-dark", job("SL-0416"), { colorScheme: "dark" }],
  ["job-run", job("SL-0416"), { open: "Before" }],
  ["job-intake", job("SL-0418")],
  ["owners-page", `${job("SL-0412")}/handover`, { fullPage: true }],
  ["job-phone", job("SL-0413"), { viewport: { width: 390, height: 844 } }],
];

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags.split(" ") });
for (const [name, path, { open, fullPage = false, ...options } = {}] of views) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: "en-GB", ...options });
  await page.goto(address + path, { waitUntil: "networkidle" });
  if (open) {
    await page.getByRole("region", { name: open, exact: true }).getByRole("button").first().click();
    await page.getByRole("navigation", { name: "Order of work" }).getByRole("button", { name: open }).click();
  }
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}${name}.png`, fullPage });
  await page.close();
}
await browser.close();
