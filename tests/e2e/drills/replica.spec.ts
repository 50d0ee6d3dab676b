import { expect, test } from "@playwright/test";
import { Workshop } from "./workshop";

const connection = "ConnectionStrings__RemedosReplica";

/** A replica by PostgreSQL's own streaming replication, in the folder beside the cluster. */
class Replica {
  private port = 0;

  constructor(private readonly workshop: Workshop) {
    this.run(
      'as_pg env PGPASSWORD="$pg_keeper_password" "$bin/pg_basebackup" -h 127.0.0.1 -p "$pg_port" -U keeper -D "$home/replica" --write-recovery-conf --checkpoint=fast',
    );
    this.start();
  }

  start() {
    this.port = Number(
      this.run(
        `port=\${1:-$(free_port)}
         as_pg "$bin/pg_ctl" -D "$home/replica" -l "$home/replica.log" -w -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start >/dev/null 2>&1
         echo "$port"`,
        ...(this.port ? [String(this.port)] : []),
      ),
    );
  }

  stop() {
    this.run('as_pg "$bin/pg_ctl" -D "$home/replica" -m fast -w stop >/dev/null');
  }

  /** As the server is told of it. */
  get connection() {
    return this.run(`pg_port=${this.port}; pg_connection demo`);
  }

  /** How many connections of the server it has; it is asked whether it is a replica, too. */
  get asked() {
    const [follows, servers] = this.run(
      `pg_port=${this.port}; pg_sql "SELECT pg_is_in_recovery(), count(*) FROM pg_stat_activity WHERE usename = 'remedos'"`,
    ).split("|");
    expect(follows).toBe("t");
    return Number(servers);
  }

  private run(lines: string, ...words: string[]) {
    return this.workshop.onDatabase(`home=$(pg_home database) bin=$(pg_bin database); ${lines}`, ...words);
  }
}

test("records are read from a replica that streams, follow it, and go on without it", async () => {
  test.setTimeout(300_000);
  const workshop = new Workshop();
  let replica: Replica | undefined;
  try {
    await workshop.start({ demo: true });
    replica = new Replica(workshop);
    const settings = { [connection]: replica.connection };
    await workshop.end();
    await workshop.start({ demo: true, settings });
    const records = () => workshop.get<unknown>("/api/records");
    const before = await records();
    expect(replica.asked).toBeGreaterThan(0);

    // A run that counts is left out on the first server; the replica hears of it.
    const left = await aRunThatCounts(workshop);
    const answer = await workshop.send(
      "PUT",
      `/api/runs/${left.id}/left-out`,
      JSON.stringify({ reason: "a drill", version: left.version }),
    );
    expect(answer.status).toBe(200);
    await expect.poll(async () => JSON.stringify(await records())).not.toBe(JSON.stringify(before));
    const after = await records();

    replica.stop();
    expect(await records()).toEqual(after);
    // Back again, it is asked once it has been left alone for a while.
    replica.start();
    await expect
      .poll(async () => {
        await records();
        return replica!.asked;
      })
      .toBeGreaterThan(0);
    expect(await records()).toEqual(after);
  } finally {
    replica?.stop();
    await workshop.close();
  }
});

async function aRunThatCounts(workshop: Workshop) {
  interface Sheet {
    runs: { id: string; version: number }[];
  }
  for (const { id } of await workshop.get<{ id: string }[]>("/api/jobs")) {
    const counted = await workshop.get<{ run: string }[]>(`/api/jobs/${id}/counted`);
    const run = (await workshop.get<Sheet>(`/api/jobs/${id}`)).runs.find((one) =>
      counted.some((c) => c.run === one.id),
    );
    if (run) {
      return run;
    }
  }
  throw new Error("No run of the demo counts.");
}
