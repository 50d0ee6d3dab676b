// Times ./remedos analyze on a log of 2,700 rows as a shell sees it, against the same program only saying its help.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const remedos = process.argv[2];
const folder = mkdtempSync(join(tmpdir(), "remedos-bench-"));
const log = join(folder, "log.csv");
let text = "Time [s],CPU package temperature [°C],CPU package power [W],CPU clock [MHz],CPU fan [RPM],Room temperature [°C]\n";
let rise = 0;
for (let i = 0; i < 2700; i++) {
  const power = (i > 300 && i < 2100 ? 150 : 20) + (i % 7) / 2;
  rise += (0.4 * power - rise) / 60;
  text += `${i},${(23 + rise + (i % 3) / 10).toFixed(1)},${power.toFixed(1)},${power > 100 ? 4500 : 1800},${600 + Math.round(rise * 10)},23.0\n`;
}
writeFileSync(log, text);
writeFileSync(join(folder, "log.conditions.json"), '{ "temperatureLimitC": 95, "coolerKind": "tower", "fanPolicy": "auto" }');

const median = (what) => {
  const times = Array.from({ length: 7 }, () => {
    const start = performance.now();
    execFileSync(remedos, what, { stdio: "ignore" });
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[3];
};
execFileSync(remedos, ["--help"], { stdio: "ignore" });
const [ours, bare] = [median(["analyze", log, "--json"]), median(["--help"])];
rmSync(folder, { recursive: true });
console.log(
  `${"./remedos analyze of 2,700 rows, in the shell (aim: 350 ms)".padEnd(58)} ${`${ours.toFixed(0)} ms`.padStart(12)} ${`${bare.toFixed(0)} ms`.padStart(12)} ${`${(ours / bare).toFixed(1)} ×`.padStart(8)}`,
);
