// Times a job sheet from the request to both traces drawn, in headless Chromium, against the bare requests for the same data.
import { chromium } from "@playwright/test";
import { enter, storage } from "../scripts/door.mjs";

const address = process.argv[2];
const rounds = 7;
const samples = 3000;
const flags = "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync";

const { headers, cookies } = await enter(address);
const sheet = await (await fetch(`${address}/api/jobs`, { method: "POST", headers })).json();
const mounts = { before: sheet.setups[0].mounts[0].id };
const repaired = await (await fetch(`${address}/api/jobs/${sheet.id}/setups`, { method: "POST", headers: { ...headers, "Content-Type": "application/json" }, body: JSON.stringify({ kind: "repair" }) })).json();
mounts.after = repaired.setups[1].mounts[0].id;
for (const [side, heat] of [["before", 0.5], ["after", 0.35]]) {
  let text = "Time [s],CPU package temperature [°C],CPU package power [W],CPU clock [MHz],CPU fan [RPM],Room temperature [°C]\n";
  let rise = 0;
  for (let i = 0; i < samples; i++) {
    const power = i > 300 && i < 2400 ? 150 : 20;
    rise += (heat * power - rise) / 60;
    text += `${i},${(23 + rise + (i % 3) / 10).toFixed(1)},${power}.${i % 10},${power * 30},${600 + Math.round(rise * 10)},23.0\n`;
  }
  await fetch(`${address}/api/jobs/${sheet.id}/logs?mount=${mounts[side]}&fileName=${side}.csv`, { method: "POST", headers, body: text });
}
const runs = async () => (await (await fetch(`${address}/api/jobs/${sheet.id}`, { headers })).json()).runs;
while ((await runs()).length < 2) {
  await new Promise((resolve) => setTimeout(resolve, 100));
}
const ids = (await runs()).map((run) => run.id);

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags.split(" ") });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, storageState: storage(address, cookies) });
const drawn = [];
const bare = [];
for (let round = 0; round <= rounds; round++) {
  await page.goto("about:blank");
  await page.goto(`${address}/jobs/${sheet.id}`, { waitUntil: "commit" });
  const ms = await page.evaluate(
    () =>
      new Promise((resolve) => {
        const look = () => {
          const lanes = document.querySelectorAll("[data-lane] canvas").length;
          // Two lines a lane: the frame after the canvases stand is the one that shows them.
          lanes >= 4 && document.body.innerText.includes("after") ? requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now()))) : requestAnimationFrame(look);
        };
        look();
      }),
  );
  const start = performance.now();
  await Promise.all([`/api/jobs/${sheet.id}`, ...ids.map((id) => `/api/runs/${id}/trace?points=1500`)].map(async (path) => (await fetch(address + path, { headers })).text()));
  const requests = performance.now() - start;
  if (round > 0) {
    drawn.push(ms);
    bare.push(requests);
  }
}
await browser.close();
const median = (values) => values.sort((a, b) => a - b)[values.length >> 1];
const [ours, requests] = [median(drawn), median(bare)];
console.log(
  `${"job sheet, two runs of 3,000 samples, request to drawn".padEnd(58)} ${`${ours.toFixed(0)} ms`.padStart(12)} ${`${requests.toFixed(0)} ms`.padStart(12)} ${`${(ours / requests).toFixed(1)} ×`.padStart(8)}`,
);
