import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { createServer, type AddressInfo } from "node:net";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { comeIn, enter, storage } from "../../../scripts/door.mjs";

const root = new URL("../../../", import.meta.url).pathname;

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, "127.0.0.1");
  await new Promise((resolve) => probe.once("listening", resolve));
  const { port } = probe.address() as AddressInfo;
  await new Promise((resolve) => probe.close(resolve));
  return port;
}

/** A Remedos of its own: its data folder, and the ./start that runs on it. */
export class Workshop {
  readonly data = mkdtempSync(join(tmpdir(), "remedos-drill-"));
  port = 0;
  said = "";
  private child?: ChildProcess;
  private link?: string;
  private joined = false;
  private demo = false;
  private headers?: Record<string, string>;

  /** Runs ./start, and waits until it is up; with `until` it waits for other words, with `disk` its data lie on a disk of their own of that size. */
  async start({
    demo = false,
    until = /Remedos is at/,
    disk,
    servers = 1,
    settings = {},
  }: {
    demo?: boolean;
    until?: RegExp;
    disk?: string;
    servers?: number;
    settings?: Record<string, string>;
  } = {}) {
    // One that ends by itself still holds the folder for a moment.
    const last = this.child;
    if (last && last.exitCode === null && last.signalCode === null) {
      await new Promise((resolve) => last.once("exit", resolve));
    }
    this.port = await freePort();
    this.demo = demo;
    this.said = "";
    const words = ["./start", "--port", String(this.port), ...(demo ? [] : ["--no-demo"])];
    if (servers > 1) {
      words.push("--servers", String(servers));
    }
    const own = [
      "unshare",
      "--mount",
      "sh",
      "-c",
      `mount -t tmpfs -o size=${disk} none "$REMEDOS_DATA" && exec "$@"`,
      "sh",
    ];
    const [command, ...rest] = disk ? [...own, ...words] : words;
    const child = spawn(command!, rest, { cwd: root, env: { ...this.env, ...settings }, detached: true });
    this.child = child;
    child.stdout.on("data", (text: Buffer) => (this.said += text.toString()));
    child.stderr.on("data", (text: Buffer) => (this.said += text.toString()));
    await expect
      .poll(() => until.test(this.said) || child.exitCode !== null, { message: () => this.said } as never)
      .toBe(true);
  }

  /** Sends ./start a signal and waits for its end. */
  async end(signal: NodeJS.Signals = "SIGTERM"): Promise<number | null> {
    const child = this.child!;
    const over = new Promise<number | null>((resolve) => child.once("exit", resolve));
    child.kill(signal);
    return child.exitCode ?? (await over);
  }

  /** Runs ./remedos with words. */
  remedos(...words: string[]) {
    const { status, stderr } = spawnSync("./remedos", words, { cwd: root, env: this.env, encoding: "utf8" });
    return { status, said: stderr };
  }

  /** Runs a statement on the workshop's database while ./start is down. */
  sql(statement: string) {
    this.onDatabase('pg_sql_in workshop "$1"; pg_stop database', statement);
  }

  /** Runs lines of a shell beside the workshop's database, which is up then; what they print. */
  onDatabase(lines: string, ...words: string[]) {
    const before = "source scripts/common.sh; source scripts/postgres.sh; pg_start database;";
    const { status, stdout, stderr } = spawnSync("bash", ["-ec", `${before} ${lines}`, "lines", ...words], {
      cwd: root,
      env: this.env,
      encoding: "utf8",
    });
    expect(status, stderr).toBe(0);
    return stdout.trim();
  }

  private get env() {
    const { ConnectionStrings__Remedos: _, ...rest } = process.env;
    return { ...rest, REMEDOS_DATA: this.data };
  }

  /** The cookies by which a browser is the lead too. */
  async storage() {
    const { Cookie: cookie } = await this.door();
    return storage(this.address, Object.fromEntries(cookie!.split("; ").map((one) => one.split(/=(.*)/s))));
  }

  get address() {
    return `http://127.0.0.1:${this.port}`;
  }

  /** The data folder as ./start sees it: a disk of its own is seen by nobody else. */
  get inside() {
    return `/proc/${this.child!.pid}/root${this.data}`;
  }

  /** The number of a part's process. */
  part(name: "server" | "server-2" | "redis" | "front" | "rig") {
    return Number(readFileSync(join(this.data, "running", name), "utf8"));
  }

  get postmaster() {
    const file = join(this.data, "database", "cluster", "postmaster.pid");
    return existsSync(file) ? Number(readFileSync(file, "utf8").split("\n")[0]) : undefined;
  }

  async get<T>(path: string): Promise<T> {
    const answer = await fetch(this.address + path, { headers: await this.door() });
    expect(answer.ok, `${path}: ${answer.status}`).toBe(true);
    return (await answer.json()) as T;
  }

  async bytes(path: string) {
    const answer = await fetch(this.address + path, { headers: await this.door() });
    return `${answer.status} ${Buffer.from(await answer.arrayBuffer()).toString("base64")}`;
  }

  /** The headers of the lead, who has come in by the link that ./start shows at first, and later by name and password. */
  async door(): Promise<Record<string, string>> {
    if (!this.headers || (await fetch(`${this.address}/api/settings`, { headers: this.headers })).status === 401) {
      if (this.demo) {
        this.headers = (await enter(this.address)).headers;
        return this.headers;
      }
      this.link = /\/join#(\S+)/.exec(this.said)?.[1] ?? this.link;
      const known = { login: "lead", password: "slow tide under nine lanterns" };
      this.headers = this.joined
        ? await comeIn(this.address, "/api/sign-in", { name: known.login, password: known.password })
        : await comeIn(this.address, "/api/join", { token: this.link, ...known });
      this.joined = true;
    }
    return this.headers;
  }

  /** Sends a change as a page does. */
  async send(method: string, path: string, body?: BodyInit, type = "application/json") {
    return fetch(this.address + path, {
      method,
      body,
      headers: { ...(await this.door()), ...(body ? { "Content-Type": type } : {}) },
    });
  }

  async save(job: string, field: string, value: unknown, base: unknown = null) {
    return this.send("PATCH", `/api/jobs/${job}/fields/${field}`, JSON.stringify({ value, base })).then(
      (answer) => answer.status,
      (why: Error) => {
        this.said += `\n${String(why)} ${String(why.cause)}`;
        return 0;
      },
    );
  }

  /** Tries a change until it is answered, as a page does with what it keeps; the answer's status. */
  async saveUntilAnswered(job: string, field: string, value: unknown, base: unknown = null) {
    for (;;) {
      const status = await this.save(job, field, value, base);
      if (status !== 0 && status < 500) {
        return status;
      }
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  }

  async newJob() {
    return ((await (await this.send("POST", "/api/jobs")).json()) as { id: string }).id;
  }

  /** Ends whatever is left and removes the data. */
  async close() {
    if (this.child?.exitCode === null && this.child.signalCode === null) {
      await this.end();
    }
    rmSync(this.data, { recursive: true, force: true });
  }
}

export const canMount = spawnSync("unshare", ["--mount", "mount", "-t", "tmpfs", "none", tmpdir()]).status === 0;

export const isAlive = (pid: number) => {
  try {
    return !/^State:\tZ/m.test(readFileSync(`/proc/${pid}/status`, "utf8"));
  } catch {
    return false;
  }
};
