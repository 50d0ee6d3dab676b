import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test as base } from "@playwright/test";
import { canMount, isAlive, Workshop } from "./workshop";

const test = base.extend<{ workshop: Workshop }>({
  // eslint-disable-next-line no-empty-pattern
  workshop: async ({}, use) => {
    const workshop = new Workshop();
    await use(workshop);
    await workshop.close();
  },
});

const log = readFileSync(new URL("../../Remedos.Core.Tests/Data/runs/02-paste-before.csv", import.meta.url));
const picture = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

test("a server and a PostgreSQL that were killed come back, and nothing acknowledged is lost", async ({ workshop }) => {
  await workshop.start();
  const job = await workshop.newJob();
  expect(await workshop.save(job, "owner", "before")).toBe(200);
  const first = workshop.part("server");
  process.kill(first, "SIGKILL");
  await expect.poll(() => workshop.save(job, "owner", "after the server", "before")).toBe(200);
  expect(workshop.part("server")).not.toBe(first);
  expect(workshop.said).toContain("The server has ended and is started again (1 of 5");

  const postmaster = workshop.postmaster!;
  process.kill(postmaster, "SIGKILL");
  await expect.poll(() => workshop.save(job, "owner", "after the database", "after the server")).toBe(200);
  expect(workshop.postmaster).not.toBe(postmaster);
  expect(workshop.said).toContain("PostgreSQL has ended and is started again");
  expect(await workshop.end()).toBe(0);
  expect([isAlive(workshop.postmaster ?? -1), workshop.said.trim().endsWith("Stopped.")]).toEqual([false, true]);
});

test("a ./start that was killed never leads to a second server on its database", async ({ workshop }) => {
  await workshop.start();
  const job = await workshop.newJob();
  const left = workshop.part("server");
  await workshop.end("SIGKILL");
  expect(isAlive(left)).toBe(true);
  await workshop.start();
  expect(workshop.said).toContain("An earlier ./start was killed; what it left running was stopped.");
  expect(isAlive(left)).toBe(false);
  expect(await workshop.save(job, "owner", "still there")).toBe(200);
});

test("stopped while it starts, or with half an upload open, it leaves nothing running", async ({ workshop }) => {
  for (let i = 0; i < 2; i++) {
    await workshop.start({ until: /Starting Remedos/ });
    const postmaster = workshop.postmaster!;
    expect(await workshop.end()).toBe(0);
    expect([isAlive(postmaster), workshop.said.trim().endsWith("Stopped.")]).toEqual([false, true]);
  }
  await workshop.start();
  const job = await workshop.newJob();
  const [server, postmaster] = [workshop.part("server"), workshop.postmaster!];
  const { "X-Remedos-Token": token, Cookie: cookie } = await workshop.door();
  const upload = connect(workshop.port, "127.0.0.1");
  upload.on("error", () => undefined);
  upload.write(
    `POST /api/jobs/${job}/logs?fileName=half.csv HTTP/1.1\r\nHost: 127.0.0.1:${workshop.port}\r\nX-Remedos-Token: ${token}\r\nCookie: ${cookie}\r\n` +
      `Content-Type: application/octet-stream\r\nContent-Length: 50000000\r\n\r\n${"x".repeat(100_000)}`,
  );
  await new Promise((resolve) => setTimeout(resolve, 500));
  const began = Date.now();
  expect(await workshop.end()).toBe(0);
  // It says five seconds; here it is enough that it does not wait for the upload.
  expect(Date.now() - began).toBeLessThan(20_000);
  expect([isAlive(server), isAlive(postmaster)]).toEqual([false, false]);
});

test("a disk that is full is told, and when there is room again everything goes on", async ({ workshop }) => {
  test.skip(!canMount, "This machine lets nobody mount a disk of its own.");
  await workshop.start({ disk: "300m" });
  const job = await workshop.newJob();
  const take = (name: string) =>
    workshop.send("POST", `/api/jobs/${job}/logs?fileName=${name}`, log, "application/octet-stream");
  const sheet = async () => workshop.get<Sheet>(`/api/jobs/${job}`);
  expect(await workshop.save(job, "owner", "there is room"), workshop.said).toBe(200);

  const filler = join(workshop.inside, "filler");
  spawnSync("dd", ["if=/dev/zero", `of=${filler}`, "bs=64k"]);
  const refused = await take("full.csv");
  expect([refused.status, await refused.text()]).toEqual([
    507,
    expect.stringContaining("no room for it on the server’s disk"),
  ]);
  // Small changes may still fit; of an unanswered one nobody knows.
  const tried = ["there is room"];
  let acknowledged = 0;
  for (let i = 0; i < 200; i++) {
    const base = tried[acknowledged]!;
    tried.push(`full ${i}`);
    if ((await workshop.save(job, "owner", tried.at(-1), base)) === 200) {
      acknowledged = tried.length - 1;
    }
  }

  rmSync(filler);
  await expect.poll(async () => (await fetch(`${workshop.address}/health`)).status).toBe(200);
  const { owner } = (await sheet()).fields;
  expect(tried.slice(acknowledged)).toContain(owner);
  expect(await workshop.save(job, "owner", "room again", owner)).toBe(200);
  expect((await take("room.csv")).status).toBe(202);
  await expect.poll(async () => (await sheet()).runs.length).toBe(1);
});

test("a file store that is not there is told, and not taken for one whose files are all missing", async ({
  workshop,
}) => {
  await workshop.start();
  await workshop.end();
  const files = join(workshop.data, "files", "workshop");
  renameSync(files, `${files}.away`);
  await workshop.start({ until: /file store is empty or is not the one/ });
  expect(workshop.said).toContain("its disk may not be there");
  rmSync(files, { recursive: true, force: true });
  renameSync(`${files}.away`, files);
  await workshop.start();
  expect((await workshop.get<{ status: string }>("/health")).status).toBe("healthy");
});

test("a database of another PostgreSQL is told with what to do, and is not touched", async ({ workshop }) => {
  await workshop.start();
  const job = await workshop.newJob();
  await workshop.end();
  const mark = join(workshop.data, "database", "cluster", "PG_VERSION");
  const made = readFileSync(mark, "utf8");
  writeFileSync(mark, "9\n");
  await workshop.start({ until: /(?!)/ });
  expect(workshop.said).toMatch(/was made by PostgreSQL 9, and PostgreSQL \d+ is what is installed/);
  expect(workshop.said).toContain("“Another PostgreSQL”");
  writeFileSync(mark, made);
  await workshop.start();
  expect((await workshop.get<Sheet>(`/api/jobs/${job}`)).id).toBe(job);
});

test("before a new version changes the tables, what was there is kept", async ({ workshop }) => {
  await workshop.start();
  const job = await workshop.newJob();
  await workshop.end();
  workshop.sql(`UPDATE "__EFMigrationsHistory" SET migration_id = '2020_' || migration_id`);
  // It ends by itself: the tables that the first migration would make are there.
  await workshop.start({ until: /(?!)/ });
  const dump = /is kept in (.*\.dump)/.exec(workshop.said)![1]!;
  expect(readFileSync(dump).subarray(0, 5).toString()).toBe("PGDMP");
  workshop.sql(`UPDATE "__EFMigrationsHistory" SET migration_id = substr(migration_id, 6)`);
  await workshop.start();
  expect((await workshop.get<Sheet>(`/api/jobs/${job}`)).id).toBe(job);
});

test("a backup that is made while it runs is restored whole into an empty checkout", async ({ workshop }) => {
  await workshop.start({ demo: true });
  const job = await workshop.newJob();
  await workshop.save(job, "owner", "Backed up");
  await workshop.send(
    "POST",
    `/api/jobs/${job}/photos?kind=proof&fileName=receipt.png`,
    picture,
    "application/octet-stream",
  );
  await workshop.send("POST", `/api/jobs/${job}/logs?fileName=a.csv`, log, "application/octet-stream");
  await workshop.send("PATCH", "/api/settings/taxPercent", JSON.stringify({ value: 7.5, base: 20 }));
  await expect.poll(async () => (await workshop.get<Sheet>(`/api/jobs/${job}`)).runs.length).toBe(1);
  const shelf = mkdtempSync(join(tmpdir(), "remedos-shelf-"));
  const set = join(shelf, "monday");
  const made = workshop.remedos("backup", set);
  expect(made.said + made.status).toMatch(/Backed up:.*0$/s);
  expect(workshop.remedos("backup", set).said).toContain("is there already");
  const before = await everything(workshop);
  await workshop.end();

  const empty = new Workshop();
  try {
    const restored = empty.remedos("restore", set);
    expect(restored.said + restored.status).toMatch(/Restored:.*0$/s);
    expect(empty.remedos("restore", set).said).toContain("already");
    await empty.start({ demo: true });
    const after = await everything(empty);
    expect(Object.keys(after).length).toBeGreaterThan(60);
    expect(after).toEqual(before);
  } finally {
    await empty.close();
    rmSync(shelf, { recursive: true, force: true });
  }
});

test("a set that was changed, or is none, is not restored", async ({ workshop }) => {
  expect(workshop.remedos("restore", join(workshop.data, "nothing")).said).toContain("is no backup");
  expect(existsSync(join(workshop.data, "database"))).toBe(false);
});

interface Sheet {
  id: string;
  fields: { owner: string };
  runs: { id: string }[];
  photos: { id: string }[];
}

/** All that a workshop holds, as its pages and files give it. */
async function everything(workshop: Workshop): Promise<Record<string, unknown>> {
  const all: Record<string, unknown> = {};
  for (const list of ["/api/settings", "/api/parts", "/api/parts/file?format=json"]) {
    all[list] = lasting(await workshop.get(list));
  }
  for (const { id } of await workshop.get<Sheet[]>("/api/jobs")) {
    const sheet = await workshop.get<Sheet>(`/api/jobs/${id}`);
    all[id] = lasting(sheet);
    all[`${id} history`] = await workshop.get(`/api/jobs/${id}/history`);
    for (const run of sheet.runs) {
      for (const part of ["original", "tidy", "conditions", "trace?cores=true", "fit"]) {
        all[`${run.id} ${part}`] = await workshop.bytes(`/api/runs/${run.id}/${part}`);
      }
    }
    for (const photo of sheet.photos) {
      all[photo.id] = await workshop.bytes(`/api/jobs/${id}/photos/${photo.id}`);
      all[`${photo.id} small`] = await workshop.bytes(`/api/jobs/${id}/photos/${photo.id}?small=true`);
    }
  }
  return all;
}

/** Without what rows are called inside PostgreSQL, which is its own affair, and how long ago something was, which is the clock's. */
const lasting = (answer: unknown): unknown =>
  JSON.parse(
    JSON.stringify(answer, (key, value: unknown) => (["version", "now", "steps"].includes(key) ? undefined : value)),
  );
