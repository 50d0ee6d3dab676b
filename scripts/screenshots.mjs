// Takes the pictures in docs/screenshots from a running demo: node scripts/screenshots.mjs [http://127.0.0.1:5080]
import { chromium } from "@playwright/test";
import { enter, storage } from "./door.mjs";

const address = process.argv[2] ?? "http://127.0.0.1:5080";
const folder = new URL("../docs/screenshots/", import.meta.url).pathname;
const flags = "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync --lang=en-GB";
const { headers, cookies } = await enter(address);
const jobs = await (await fetch(`${address}/api/jobs`, { headers })).json();
const job = (tag) => `/jobs/${jobs.find((one) => one.tag === tag).id}`;

/** name, address, and what is done before the picture is taken */
const views = [
  ["jobs", "/jobs"],
  ["job-before", job("SL-0414")],
  ["job-verdict", job("SL-0412")],
  ["job-verdict-dark", job("SL-0416"), { colorScheme: "dark" }],
  ["practice", "/practice", { act: openDebrief }],
  ["repair-step", `${job("SL-0413")}/repair`],
  ["job-diagnosis", job("SL-0421"), { open: "Diagnosis" }],
  ["day", "/jobs/day", { act: (page) => page.waitForTimeout(800) }],
  ["decide", `${job("SL-0421")}/decide`, { act: (page) => page.waitForTimeout(800) }],
  ["coolers", `/coolers?job=${jobs.find((one) => one.tag === "SL-0415").id}`, { act: (page) => page.waitForTimeout(800) }],
  ["air", `/air?job=${jobs.find((one) => one.tag === "SL-0415").id}`, { act: (page) => page.waitForTimeout(1500) }],
  ["records", "/records"],
  ["workshop", "/workshop"],
  ["owners-page", `${job("SL-0412")}/handover`, { fullPage: true }],
  ["job-phone", job("SL-0413"), { viewport: { width: 390, height: 844 } }],
  ["job-series", job("SL-0422"), { act: (page) => page.getByRole("region", { name: "Series" }).evaluate((region) => region.scrollIntoView()) }],
  ["job-card", `${job("SL-0425")}?subject=graphics`],
  ["bench", "/bench", { act: (page) => page.waitForTimeout(3000) }],
  ["bay", "/bench/1", { act: (page) => page.waitForTimeout(4000) }],
];

/** The case with the most to tell: the one that went worst. */
async function openDebrief(page) {
  await page.getByRole("link", { name: /of 100$/ }).last().click();
  await page.getByRole("region", { name: "Where the information lay" }).waitFor();
}

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags.split(" ") });
for (const [name, path, { open, act, fullPage = false, ...options } = {}] of views) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: "en-GB", storageState: storage(address, cookies), ...options });
  await page.goto(address + path, { waitUntil: "networkidle" });
  if (open) {
    await page.getByRole("region", { name: open, exact: true }).getByRole("button").first().click();
    await page.getByRole("navigation", { name: "Order of work" }).getByRole("button", { name: open }).click();
  }
  await act?.(page);
  await page.waitForTimeout(600);
  // A picture of a page that is still fetching shows nobody anything.
  await page.waitForFunction(() => !/Fetching .+ …/.test(document.body.innerText));
  await page.screenshot({ path: `${folder}${name}.png`, fullPage });
  await page.close();
}
await browser.close();
