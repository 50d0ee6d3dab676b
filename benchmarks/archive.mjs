// The whole workshop as one file, from a server that has done nothing else: how long it takes, and the memory that it takes at its peak.
import { readFileSync } from "node:fs";
import { enter } from "../scripts/door.mjs";
const [address, pid] = process.argv.slice(2);
const { headers } = await enter(address);
const row = (what, ours, bare, ratio) =>
  console.log(`${what.padEnd(58)} ${ours.padStart(12)} ${bare.padStart(12)} ${ratio.padStart(8)}`);
const residentMb = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) / 1024;

const before = residentMb();
let most = before;
const watch = setInterval(() => (most = Math.max(most, residentMb())), 20);
const began = performance.now();
let bytes = 0;
for await (const part of (await fetch(`${address}/api/archive`, { headers })).body) {
  bytes += part.length;
}
clearInterval(watch);
row(`an archive of all of them, ${(bytes / 1e6).toFixed(0)} MB`, `${((performance.now() - began) / 1000).toFixed(1)} s`, "", "");
row("  memory of the server at its peak, and before", `${most.toFixed(0)} MB`, `${before.toFixed(0)} MB`, "");
