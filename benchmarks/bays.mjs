// Bays under load: the Bench page with six of them, then with 64 at 10 Hz with 30 channels, a run going on in each, from the sample to the screen in headless Chromium.
import { readdirSync, readFileSync } from "node:fs";
import { Agent, request } from "node:http";
import { chromium } from "@playwright/test";
import { enter, storage } from "../scripts/door.mjs";

const [address, server, seconds = "45"] = process.argv.slice(2);
const everyMs = 100;
const manyBays = 64;
const watchedMs = { six: 20_000, many: 1000 * Number(seconds), warm: 8_000 };
const flags =
  "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync";

const { headers, cookies } = await enter(address);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const at = (values, share) => values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))];

const kept = new Agent({ keepAlive: true });

/** Sends readings as small as a probe does: senders share the machine with what is measured. The answer, or null for none that counts. */
function send(bay, body) {
  return new Promise((resolve) => {
    const asked = request(
      `${address}/api/bays/${bay.number}/readings?stream=load`,
      { method: "POST", agent: kept, headers: { Authorization: `Bearer ${bay.token}`, "Content-Length": Buffer.byteLength(body) } },
      (answer) => {
        let text = "";
        answer.setEncoding("utf8");
        answer.on("data", (part) => (text += part));
        answer.on("end", () => resolve(answer.statusCode === 200 ? JSON.parse(text) : null));
      },
    );
    asked.on("error", () => resolve(null));
    asked.end(body);
  });
}

/** A sender of one bay: a sample every 100 ms, sent as soon as the answer before is there. */
class Sender {
  constructor(bay) {
    this.bay = bay;
    this.pending = [];
    this.seq = 0;
    this.made = new Map();
    this.answers = [];
  }

  run() {
    this.timer = setInterval(() => {
      this.seq++;
      // Slowly, as a chip under load; the one that is timed shows another degree with every sample, so that each can be told on the screen.
      const chip = this.timed ? 30 + (this.seq % 90) : 64 + Math.round(4 * Math.sin(this.seq / 150));
      this.made.set(chip, performance.timeOrigin + performance.now());
      const cores = Array.from({ length: 8 }, (_, i) => chip - i / 2);
      this.pending.push([
        this.seq,
        JSON.stringify({
          seq: this.seq,
          t: this.seq / 10,
          "cpu-temperature": chip,
          "core-temperature": cores,
          "core-clock": cores.map((c) => 3000 + 10 * c),
          "cpu-power": Number((90 + 1.2 * Math.sin(0.7 * this.seq)).toFixed(2)),
          "cpu-clock": 3400,
          "cpu-load": 99.5,
          "cpu-fan-speed": 1200,
          "case-fan-speed": 800,
          "pump-speed": 2400,
          "ambient-temperature": 22.5,
          "case-air-temperature": 31.5,
          "coolant-temperature": 36.5,
          "gpu-temperature": 48,
          "gpu-power": 20.5,
          "throttle-flag": 0,
          "sound-level": 34.5,
        }),
      ]);
      if (!this.busy) {
        void this.send();
      }
    }, everyMs);
  }

  async send() {
    this.busy = true;
    while (this.pending.length > 0) {
      const start = performance.now();
      const answer = await send(this.bay, this.pending.map(([, line]) => line).join("\n"));
      if (answer) {
        this.answers.push(performance.now() - start);
        this.pending = this.pending.filter(([seq]) => seq > answer.acknowledged);
      } else {
        await wait(200);
      }
    }
    this.busy = false;
  }

  async end() {
    clearInterval(this.timer);
    while (this.busy || this.pending.length > 0) {
      await wait(20);
    }
  }
}

const post = async (path) => (await fetch(address + path, { method: "POST", headers })).json();

async function addBay() {
  const bay = await post("/api/bays");
  return new Sender({ ...bay, token: (await post(`/api/bays/${bay.id}/token`)).token });
}

/** Starts a run of some minutes in a bay, on a job of its own. */
async function startRun(sender) {
  const job = await post("/api/jobs");
  const answer = await fetch(`${address}/api/bays/${sender.bay.id}/run`, {
    method: "PUT",
    headers: { ...headers, "Content-Type": "application/json" },
    body: JSON.stringify({ jobId: job.id, variant: "usual", loadSeconds: 3600 }),
  });
  if (!answer.ok) {
    throw new Error(await answer.text());
  }
}

/** CPU seconds of all Chromium processes. */
function chromiumSeconds() {
  let ticks = 0;
  for (const pid of readdirSync("/proc").filter((name) => /^\d+$/.test(name))) {
    try {
      if (readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("chromium")) {
        const stat = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1].split(" ");
        ticks += Number(stat[11]) + Number(stat[12]);
      }
    } catch {
      // It has ended meanwhile.
    }
  }
  return ticks / 100;
}

const serverMegabytes = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server}/status`, "utf8"))[1]) / 1024;

const row = (what, ours, bare, ratio) =>
  console.log(`${what.padEnd(58)} ${ours.padStart(12)} ${bare.padStart(12)} ${ratio.padStart(8)}`);

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags.split(" ") });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, storageState: storage(address, cookies) });
const senders = [];
while (senders.length < 6) {
  senders.push(await addBay());
}
senders.forEach((sender) => sender.run());
await page.goto(`${address}/bench`);
await wait(watchedMs.warm);
const [before, began] = [chromiumSeconds(), performance.now()];
await wait(watchedMs.six);
const share = (100 * (chromiumSeconds() - before)) / ((performance.now() - began) / 1000);
row("a page that follows six bays at 10 Hz, of one core", `${share.toFixed(0)} %`, "", "");

while (senders.length < manyBays) {
  senders.push(await addBay());
  senders.at(-1).run();
}
const followed = senders[0];
followed.timed = true;
await wait(1000);
for (const sender of senders) {
  await startRun(sender);
}
await page.goto(`${address}/bench`);
await page.waitForSelector(`article[aria-label="Bay ${followed.bay.number}"] p.font-mono.font-bold`);
await wait(watchedMs.warm);
senders.forEach((sender) => (sender.answers = []));
const memory = [serverMegabytes()];
await page.evaluate((number) => {
  window.seen = [];
  const figure = document.querySelector(`article[aria-label="Bay ${number}"] p.font-mono.font-bold`);
  new MutationObserver(() => {
    const chip = parseInt(figure.textContent, 10);
    requestAnimationFrame(() => window.seen.push([chip, performance.timeOrigin + performance.now()]));
  }).observe(figure, { characterData: true, childList: true, subtree: true });
}, followed.bay.number);
const delays = [];
for (let left = watchedMs.many; left > 0; left -= 3000) {
  await wait(3000);
  for (const [chip, moment] of await page.evaluate(() => window.seen.splice(0))) {
    delays.push(moment - followed.made.get(chip));
  }
  memory.push(serverMegabytes());
}
const answers = senders.flatMap((sender) => sender.answers);
await Promise.all(senders.map((sender) => sender.end()));
await browser.close();

let lost = 0;
for (const sender of senders) {
  const stored = await (await fetch(`${address}/api/bays/${sender.bay.id}/readings?most=100000`, { headers })).json();
  // An hour is kept for the picture; what is older has been shown and let go.
  const kept = stored.seconds.length;
  const whole = stored.seconds.every((second, i) => Math.abs(second - (stored.fromSequence + i) / 10) < 1e-6);
  lost += whole && stored.fromSequence + kept - 1 === sender.seq ? 0 : 1;
}
row(
  `${manyBays} bays with runs, 10 Hz, 30 channels: to the Bench, 99 %`,
  `${at(delays, 0.99).toFixed(0)} ms`,
  `${at(answers, 0.99).toFixed(0)} ms`,
  `${(at(delays, 0.99) / at(answers, 0.99)).toFixed(1)} ×`,
);
row("  the half of them", `${at(delays, 0.5).toFixed(0)} ms`, `${at(answers, 0.5).toFixed(0)} ms`, "");
row("  bays with a reading lost or doubled", String(lost), "", "");
row("  the server’s memory, at first and after", `${memory[0].toFixed(0)} MB`, `${memory.at(-1).toFixed(0)} MB`, "");
