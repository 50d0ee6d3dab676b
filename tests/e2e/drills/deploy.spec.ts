import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";

const deploy = new URL("../../../deploy/", import.meta.url).pathname;
const here = (command: string) => spawnSync("sh", ["-c", `command -v ${command}`]).status === 0;
const said = (command: string, ...words: string[]) => {
  const { status, stdout, stderr } = spawnSync(command, words, { encoding: "utf8" });
  return { status, said: stdout + stderr };
};

test("the proxy's example is one that the proxy takes", () => {
  const folder = mkdtempSync(join(tmpdir(), "remedos-proxy-"));
  try {
    const [key, certificate] = [join(folder, "key.pem"), join(folder, "certificate.pem")];
    const made = said(
      "openssl",
      ...`req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=repairs.example -keyout ${key} -out ${certificate}`.split(
        " ",
      ),
    );
    expect(made.status, made.said).toBe(0);
    const example = said("sed", "-e", `s#/etc/remedos#${folder}#`, join(deploy, "nginx.conf")).said;
    writeFileSync(
      join(folder, "remedos.conf"),
      example.replaceAll("listen 80", "listen 18080").replaceAll("listen 443", "listen 18443"),
    );
    writeFileSync(
      join(folder, "nginx.conf"),
      `pid ${folder}/pid;\nerror_log stderr;\nevents {}\nhttp { access_log off; include ${folder}/remedos.conf; }\n`,
    );
    const checked = said("nginx", "-t", "-p", folder, "-c", join(folder, "nginx.conf"), "-e", "stderr");
    expect(checked.said).toContain("test is successful");
    expect(checked.said).not.toContain("[warn]");
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test("the service's unit is understood, and shuts out what it says", () => {
  test.skip(!here("systemd-analyze"), "This machine has no systemd to ask.");
  const folder = mkdtempSync(join(tmpdir(), "remedos-unit-"));
  try {
    // The program is not installed here: its place is another one's that is.
    const unit = join(folder, "remedos.service");
    writeFileSync(
      unit,
      said("sed", "-e", "s#^ExecStart=[^ ]*#ExecStart=/bin/true#", join(deploy, "remedos.service")).said,
    );
    const checked = said("systemd-analyze", "verify", unit);
    expect([checked.status, checked.said.split("\n").filter((line) => line.includes("remedos.service"))]).toEqual([
      0,
      [],
    ]);
    const security = said("systemd-analyze", "security", "--offline=true", "--no-pager", unit).said;
    expect(Number(/exposure level for remedos.service: ([\d.]+)/.exec(security)?.[1])).toBeLessThan(2);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
