// A workshop of ten years: what each page and save takes while twenty people work in it. node benchmarks/growth.mjs ADDRESS [seconds]
import { enter } from "../scripts/door.mjs";

const [address, seconds = "60"] = process.argv.slice(2);
const people = 20;
/** A page looks again for what others have changed, ms; and somebody does something, ms. */
const lookAgain = 4000;
const between = 2000;
const names = ["Ines", "Mirela", "Odhran"];
const at = (values, share) => values.sort((a, b) => a - b)[Math.floor(share * (values.length - 1))];
const row = (what, ours, bare, ratio) =>
  console.log(`${what.padEnd(58)} ${ours.padStart(12)} ${bare.padStart(12)} ${ratio.padStart(8)}`);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
// The same numbers each time, and no two people in step.
const pick = (seed) => () => (seed = (seed * 1664525 + 1013904223) % 4294967296) / 4294967296;

const took = new Map();
let refused = 0;
async function ask(what, headers, path, options = {}) {
  const began = performance.now();
  const answer = await fetch(address + path, { ...options, headers: { ...headers, ...options.headers } });
  const text = await answer.text();
  const ms = performance.now() - began;
  if (answer.status >= 400) {
    refused++;
    console.error(`${options.method ?? "GET"} ${path}: ${answer.status} ${text.slice(0, 200)}`);
  } else if (measuring) {
    took.set(what, [...(took.get(what) ?? []), ms]);
  }
  return { answer, text };
}

let measuring = false;
let over = false;

async function person(number) {
  const random = pick(number * 7919);
  const { headers } = await enter(address, names[number % names.length]);
  const open = JSON.parse((await ask("the list of machines", headers, "/api/jobs")).text);
  const left = open.filter((tag) => tag.waitsFor === "done");
  const mine = working[number];
  let sheet = mine;
  let known;
  const look = async () => {
    // What a page shows is asked for by the tag of the last answer.
    const last = await ask("a sheet looked at again", headers, `/api/jobs/${sheet.id}`, known ? { headers: { "If-None-Match": known } } : {});
    known = last.answer.headers.get("ETag");
  };
  const polling = (async () => {
    await wait(random() * lookAgain);
    while (!over) {
      await look();
      await wait(lookAgain);
    }
  })();
  const deeds = [
    () => ask("the list of machines", headers, "/api/jobs"),
    () => ask("the next page of it", headers, `/api/jobs?after=${left[left.length - 1].id}`),
    () => ask("a search for a serial number", headers, `/api/jobs?search=SN${String(Math.floor(random() * 33000)).padStart(7, "0")}`),
    () => ask("a search for an owner", headers, "/api/jobs?search=smokehouse%20gull"),
    () => ask("a search for two letters", headers, "/api/jobs?search=re"),
    async () => {
      sheet = random() < 0.5 ? mine : left[Math.floor(random() * left.length)];
      known = undefined;
      await ask("a sheet opened", headers, `/api/jobs/${sheet.id}`);
      await ask("its diagnosis", headers, `/api/jobs/${sheet.id}/diagnosis`);
    },
    () => ask("its history", headers, `/api/jobs/${sheet.id}/history`),
    () => ask("coolers for it", headers, `/api/jobs/${mine.id}/coolers`),
    () => ask("its options", headers, `/api/jobs/${mine.id}/options`),
    () => ask("the air in it", headers, `/api/jobs/${mine.id}/air`),
    () => ask("parts", headers, "/api/parts"),
    () => ask("records", headers, "/api/records"),
    () => ask("the machines behind a record", headers, "/api/records/behind?series=Rill%20240"),
    () => ask("due for a recheck", headers, "/api/jobs/due"),
    ...(names[number % names.length] === "Ines" ? [() => ask("the log of the workshop", headers, "/api/audit")] : []),
    ...["noticed", "repairFound", "serial", "contact"].map((field) => () => save(field, `${field} ${Math.floor(random() * 1e6)}`)),
    () => save("repairCauses", random() < 0.5 ? ["pump-failed"] : ["paste-aged"]),
    () => ask("a machine taken in", headers, "/api/jobs", { method: "POST" }),
  ];
  const save = async (field, value) => {
    const now = JSON.parse((await ask("a sheet opened", headers, `/api/jobs/${mine.id}`)).text);
    await ask("a field saved, the sheet answered", headers, `/api/jobs/${mine.id}/fields/${field}`, {
      method: "PATCH",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ value, base: now.fields[field] }),
    });
  };
  while (!over) {
    await deeds[Math.floor(random() * deeds.length)]();
    await wait(between * (0.5 + random()));
  }
  await polling;
}

// Machines that are in work and of which enough is known to choose a cooler.
const first = (await enter(address)).headers;
const working = [];
for (const tag of JSON.parse((await ask("", first, "/api/jobs")).text)) {
  if (working.length < people && tag.waitsFor !== "done") {
    const answer = await fetch(`${address}/api/jobs/${tag.id}/coolers`, { headers: first });
    if (answer.ok) {
      working.push(tag);
    }
  }
}

const everybody = Array.from({ length: people }, (_, number) => person(number));
// A server that has run for a while: its code is compiled, its connections know their statements.
await wait(45_000);
measuring = true;
await wait(1000 * Number(seconds));
measuring = false;
over = true;
await Promise.all(everybody);
console.log(`twenty people, ${seconds} s; of each: half, 95 %, how many`);
for (const [what, all] of [...took].sort((a, b) => at(b[1], 0.95) - at(a[1], 0.95))) {
  row(what, `${at(all, 0.5).toFixed(1)} ms`, `${at(all, 0.95).toFixed(1)} ms`, String(all.length));
}
const every = [...took.values()].flat();
row("all of them", `${at(every, 0.5).toFixed(1)} ms`, `${at(every, 0.95).toFixed(1)} ms`, String(every.length));
if (refused > 0) {
  console.error(`${refused} were refused.`);
}
