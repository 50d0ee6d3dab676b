import { chromium, expect, test as base, type Page } from "@playwright/test";
import { isAlive, Workshop } from "./workshop";

const test = base.extend<{ workshop: Workshop }>({
  // eslint-disable-next-line no-empty-pattern
  workshop: async ({}, use) => {
    const workshop = new Workshop();
    await use(workshop);
    await workshop.close();
  },
});

interface Sheet {
  fields: { owner: string };
  runs: { rows: number }[];
  imports: unknown[];
}

/** A log that takes a while to be read. */
const longLog = Buffer.from(
  ["Time [s],CPU temperature [°C],CPU power [W],CPU fan [rpm]"]
    .concat(
      Array.from({ length: 400_000 }, (_, s) => `${s},${s < 60 ? 35 : 80 + (s % 3)},${s < 60 ? 20 : 120},${1200}`),
    )
    .join("\n"),
);

test("either of two servers may be killed in the middle of saves, imports and bays, and Redis too", async ({
  workshop,
}) => {
  test.setTimeout(300_000);
  await workshop.start({ servers: 2 });
  const job = await workshop.newJob();
  const bay = await aBay(workshop);
  const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
  try {
    const page = await browser.newPage({ storageState: (await workshop.storage()) as never });
    await page.goto(`${workshop.address}/bench/${bay.number}`);

    let over = false;
    const sending = send(workshop, bay, () => over);
    const saving = save(workshop, job, () => over);
    bay.chip = 51;
    await shows(page, 51);

    for (const [victim, chip] of [
      ["server", 62],
      ["server-2", 73],
      ["redis", 84],
    ] as const) {
      // In the middle of an import: it was taken, and is read once, by whoever is left.
      const before = (await sheetOf(workshop, job)).runs.length;
      const name = `${victim}.csv`;
      const log = Buffer.concat([longLog, Buffer.from(`\n400000,80,${chip},1200\n`)]);
      expect((await upload(workshop, job, name, log)).status).toBe(202);
      const pid = workshop.part(victim);
      process.kill(pid, "SIGKILL");
      bay.chip = chip;
      await shows(page, chip);
      await expect.poll(() => workshop.part(victim) !== pid && isAlive(workshop.part(victim))).toBe(true);
      await expect.poll(async () => (await sheetOf(workshop, job)).runs.length, { timeout: 120_000 }).toBe(before + 1);
      expect((await sheetOf(workshop, job)).imports).toEqual([]);
    }
    expect(workshop.said).toContain("Server 1 has ended and is started again");
    expect(workshop.said).toContain("Server 2 has ended and is started again");
    expect(workshop.said).toContain("Redis has ended and is started again");

    over = true;
    const [sent, saved] = [await sending, await saving];
    // Every reading once and in order.
    const trace = await workshop.get<{ fromSequence: number; seconds: number[] }>(
      `/api/bays/${bay.id}/readings?most=100000`,
    );
    expect(sent).toBeGreaterThan(100);
    expect(trace.seconds).toEqual(Array.from({ length: sent }, (_, i) => i + 1));
    // Every change that was answered is in the log once, and the last one stands.
    expect(saved).toBeGreaterThan(20);
    expect(await changesOf(workshop, job)).toEqual(Array.from({ length: saved }, (_, i) => `save ${saved - i}`));
    expect((await sheetOf(workshop, job)).fields.owner).toBe(`save ${saved}`);
  } finally {
    await browser.close();
  }
  const parts = (["server", "server-2", "redis", "front"] as const).map((part) => workshop.part(part));
  expect(await workshop.end()).toBe(0);
  expect(parts.map(isAlive)).toEqual([false, false, false, false]);
});

test("a ./start with two servers that was killed leaves nothing behind for the next one", async ({ workshop }) => {
  await workshop.start({ servers: 2 });
  const job = await workshop.newJob();
  const parts = (["server", "server-2", "redis", "front"] as const).map((part) => workshop.part(part));
  await workshop.end("SIGKILL");
  expect(parts.map(isAlive)).toEqual([true, true, true, true]);
  await workshop.start();
  expect(parts.map(isAlive)).toEqual([false, false, false, false]);
  expect(await workshop.save(job, "owner", "still there")).toBe(200);
});

const sheetOf = (workshop: Workshop, job: string) =>
  workshop.get<Sheet>(`/api/jobs/${job}`).catch(() => patient(workshop, job));

/** What the owner was set to, the last first: the whole log, page by page. */
async function changesOf(workshop: Workshop, job: string) {
  const all: unknown[] = [];
  for (let before: number | null = 0; before !== null;) {
    const page: { entries: { words: string; after: unknown }[]; before: number | null } = await workshop.get(
      `/api/jobs/${job}/history${before ? `?before=${before}` : ""}`,
    );
    all.push(...page.entries.filter((entry) => entry.words === "owner").map((entry) => entry.after));
    before = page.before;
  }
  return all;
}

/** A page asks again where a server went in the middle of its answer. */
async function patient(workshop: Workshop, job: string): Promise<Sheet> {
  await new Promise((resolve) => setTimeout(resolve, 500));
  return sheetOf(workshop, job);
}

async function upload(workshop: Workshop, job: string, name: string, log: Buffer) {
  const path = `/api/jobs/${job}/logs?fileName=${name}`;
  return workshop.send("POST", path, log, "application/octet-stream");
}

const shows = (page: Page, chip: number) =>
  expect(page.getByRole("img", { name: new RegExp(`Chip at ${chip}`) }).first()).toBeVisible({ timeout: 40_000 });

interface Sending {
  id: string;
  number: number;
  token: string;
  chip: number;
}

async function aBay(workshop: Workshop): Promise<Sending> {
  const { id, number } = (await (await workshop.send("POST", "/api/bays")).json()) as Sending;
  const { token } = (await (await workshop.send("POST", `/api/bays/${id}/token`)).json()) as Sending;
  return { id, number, token, chip: 40 };
}

/** Sends a reading ten times a second, and again whatever was not acknowledged; how many there were. */
async function send(workshop: Workshop, bay: Sending, over: () => boolean) {
  let [made, acknowledged] = [0, 0];
  const waiting: string[] = [];
  while (!over() || acknowledged < made) {
    if (!over()) {
      made++;
      waiting.push(JSON.stringify({ seq: made, t: made, "cpu-temperature": bay.chip, "cpu-power": 60 }));
    }
    try {
      const answer = await fetch(`${workshop.address}/api/bays/${bay.number}/readings?stream=drill`, {
        method: "POST",
        headers: { Authorization: `Bearer ${bay.token}`, "Content-Type": "application/x-ndjson" },
        body: waiting.slice(0, 200).join("\n"),
      });
      if (answer.ok) {
        const upTo = ((await answer.json()) as { acknowledged: number }).acknowledged;
        waiting.splice(0, upTo - acknowledged);
        acknowledged = upTo;
      }
    } catch {
      // Sent again with the next.
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return made;
}

/** Saves one text after another, each as often as it takes; how many there were. */
async function save(workshop: Workshop, job: string, over: () => boolean) {
  let saved = 0;
  while (!over()) {
    const status = await workshop.saveUntilAnswered(job, "owner", `save ${saved + 1}`, saved ? `save ${saved}` : null);
    expect(status).toBe(200);
    saved++;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return saved;
}
