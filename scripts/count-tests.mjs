// Adds up what the runners wrote and prints the closing line; exits 1 if anything failed, broke, or nothing ran.
import { readdirSync, readFileSync } from "node:fs";

const [folder, broken] = process.argv.slice(2);
let passed = 0;
let failed = 0;
for (const name of readdirSync(folder)) {
  if (name.endsWith(".trx")) {
    const counters = /<Counters\b[^>]*>/.exec(readFileSync(`${folder}/${name}`, "utf8"))?.[0] ?? "";
    const count = (key) => Number(new RegExp(`\\b${key}="(\\d+)"`).exec(counters)?.[1] ?? 0);
    passed += count("passed");
    failed += count("failed") + count("error") + count("timeout");
  } else if (name === "web.json") {
    const report = JSON.parse(readFileSync(`${folder}/${name}`, "utf8"));
    passed += report.numPassedTests;
    failed += report.numFailedTests;
  } else if (/^e2e.*\.json$/.test(name)) {
    const { stats, suites } = JSON.parse(readFileSync(`${folder}/${name}`, "utf8"));
    passed += stats.expected + stats.flaky;
    failed += stats.unexpected;
    for (const title of suites.flatMap(needingASecondTry)) {
      console.log(`Passed on the second try only: ${title}`);
    }
  }
}

function needingASecondTry({ suites = [], specs = [] }) {
  const here = specs.filter((spec) => spec.tests.some((test) => test.status === "flaky"));
  return [...here.map((spec) => `${spec.file} › ${spec.title}`), ...suites.flatMap(needingASecondTry)];
}

// A step that broke without a failing test (a formatter, a runner that did not start) counts as one failure.
if (broken !== "0" && failed === 0) {
  failed = 1;
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 || passed === 0 ? 1 : 0);
