// What a save takes: one field by one person, the sheet, and a field while twenty people save others of the same job.
import { enter } from "../scripts/door.mjs";
const address = process.argv[2];
const { headers: mine } = await enter(address);
const headers = {
  ...mine,
  "Content-Type": "application/json",
};
const at = (values, share) => values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))];
const row = (what, ours, bare, ratio) =>
  console.log(`${what.padEnd(58)} ${ours.padStart(12)} ${bare.padStart(12)} ${ratio.padStart(8)}`);
const fields = ["owner", "contact", "machine", "serial", "noticed", "processor", "board", "memory", "graphics", "case", "cooler", "fans", "doneBefore", "repairFound", "repairDone", "repairParts", "repairCooler", "repairMinutes"];

// A job with runs, as the demo has them.
const jobs = await (await fetch(`${address}/api/jobs`, { headers: mine })).json();
const job = jobs.find((one) => one.tag === "SL-0412").id;
const values = { ...(await (await fetch(`${address}/api/jobs/${job}`, { headers: mine })).json()).fields };

async function save(field, value) {
  const began = performance.now();
  const answer = await fetch(`${address}/api/jobs/${job}/fields/${field}`, {
    method: "PATCH",
    headers,
    body: JSON.stringify({ value, base: values[field] }),
  });
  await answer.arrayBuffer();
  if (answer.ok) {
    values[field] = value;
  }
  return [performance.now() - began, answer.status];
}

const valueOf = (field, round) => (field === "repairMinutes" ? round : `${field} ${round}`);
async function timed(times, act) {
  const took = [];
  for (let i = 0; i < times + 10; i++) {
    const ms = await act(i);
    if (i >= 10) {
      took.push(ms);
    }
  }
  return took;
}

const sheet = await timed(60, async () => {
  const began = performance.now();
  await (await fetch(`${address}/api/jobs/${job}`, { headers: mine })).arrayBuffer();
  return performance.now() - began;
});
const bare = await timed(60, async () => {
  const began = performance.now();
  await (await fetch(`${address}/api/settings`, { headers: mine })).arrayBuffer();
  return performance.now() - began;
});
row("a job sheet asked for, against a bare request", `${at(sheet, 0.5).toFixed(1)} ms`, `${at(bare, 0.5).toFixed(1)} ms`, `${(at(sheet, 0.5) / at(bare, 0.5)).toFixed(1)} ×`);
const alone = await timed(60, async (i) => (await save("noticed", `noticed ${i}`))[0]);
row("a field saved, and the sheet answered; half and 95 %", `${at(alone, 0.5).toFixed(1)} ms`, `${at(alone, 0.95).toFixed(1)} ms`, "");

const [times, statuses] = [[], []];
for (let round = 0; round < 25; round++) {
  for (const [ms, status] of await Promise.all(fields.map((field) => save(field, valueOf(field, round + 1000))))) {
    times.push(ms);
    statuses.push(status);
  }
}
row("a field saved while 19 others of the job are; half and 95 %", `${at(times, 0.5).toFixed(0)} ms`, `${at(times, 0.95).toFixed(0)} ms`, "");
row("  saves that failed, of 500", String(statuses.filter((status) => status !== 200).length), "", "");
