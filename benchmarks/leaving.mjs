// What leaves the workshop: the owner's report, a job of ten runs as a bundle, and bundles read in, which are the jobs of the archive after it.
import { enter } from "../scripts/door.mjs";
const [address, jobsWanted = "300"] = process.argv.slice(2);
const { headers } = await enter(address);
const row = (what, ours, bare, ratio) =>
  console.log(`${what.padEnd(58)} ${ours.padStart(12)} ${bare.padStart(12)} ${ratio.padStart(8)}`);
const get = async (path) => (await fetch(address + path, { headers })).json();
const post = (path, body) => fetch(address + path, { method: "POST", headers, body });

/** Takes an answer without keeping it; how long it took, and how much it was. */
async function taken(path) {
  const began = performance.now();
  let bytes = 0;
  for await (const part of (await fetch(address + path, { headers })).body) {
    bytes += part.length;
  }
  return [performance.now() - began, bytes];
}

async function median(path) {
  const took = [];
  for (let i = 0; i < 7; i++) {
    took.push((await taken(path))[0]);
  }
  return took.sort((a, b) => a - b)[3];
}

const jobs = await get("/api/jobs");
const boat = jobs.find((one) => one.tag === "SL-0412").id;
row("the owner's report as a document, the first one", `${(await taken(`/api/jobs/${boat}/report.pdf`))[0].toFixed(0)} ms`, "", "");
row("the owner's report as a document", `${(await median(`/api/jobs/${boat}/report.pdf`)).toFixed(0)} ms`, "", "");

// A job of ten runs of half an hour at ten samples a second, each another log.
const wide = (seed) => {
  const lines = ["Time (s),CPU package temperature (°C),CPU power (W),CPU fan (rpm),Ambient temperature (°C)"];
  for (let i = 0; i < 18000; i++) {
    const t = i / 10,
      load = t > 300 && t < 1500;
    const rise = load ? 45 * (1 - Math.exp(-(t - 300) / 120)) : t >= 1500 ? 45 * Math.exp(-(t - 1500) / 120) : 0;
    lines.push(`${t.toFixed(1)},${(31 + rise + (((i * 7) % 5) + seed) / 10).toFixed(1)},${load ? 120 : 18},${load ? 1400 : 700},23.5`);
  }
  return lines.join("\n");
};
const ten = (await (await post("/api/jobs")).json()).id;
for (let run = 0; run < 10; run++) {
  const answer = await post(`/api/jobs/${ten}/logs?fileName=run-${run}.csv`, wide(run));
  if (!answer.ok) {
    throw new Error(await answer.text());
  }
}
while ((await get(`/api/jobs/${ten}`)).runs.length < 10) {
  await new Promise((then) => setTimeout(then, 200));
}
const bundleMs = await median(`/api/jobs/${ten}/bundle`);
row("a job of ten runs, 18,000 rows each, as a bundle", `${bundleMs.toFixed(0)} ms`, "", "");

// Many jobs: one of the demo's, read in again and again.
const bundle = await (await fetch(`${address}/api/jobs/${boat}/bundle`, { headers })).arrayBuffer();
const began = performance.now();
for (let job = 0; job < Number(jobsWanted); job++) {
  const answer = await post("/api/jobs/bundle?again=true", bundle);
  if (!answer.ok) {
    throw new Error(await answer.text());
  }
  await answer.arrayBuffer();
}
row("a job of two runs read in, each of many", `${((performance.now() - began) / Number(jobsWanted)).toFixed(0)} ms`, "", "");
while ((await get("/health")).figures.workWaiting > 0) {
  await new Promise((then) => setTimeout(then, 1000));
}
