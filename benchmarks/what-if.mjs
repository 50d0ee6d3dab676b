// What-if in headless Chromium: a slider or a curve is moved step by step; from the input to the frame in which the answer stands.
import { chromium } from "@playwright/test";
import { enter, storage } from "../scripts/door.mjs";

const [address] = process.argv.slice(2);
const { cookies } = await enter(address);
const steps = 60;
const flags =
  "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync";
const at = (values, share) => [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))];
const row = (what, values) =>
  console.log(`${what.padEnd(58)} ${`${at(values, 0.5).toFixed(0)} ms`.padStart(12)} ${`95 %: ${at(values, 0.95).toFixed(0)} ms`.padStart(15)}`);

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: flags.split(" ") });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, storageState: storage(address, cookies) });
const jobs = await (await page.request.get(`${address}/api/jobs`)).json();
const job = jobs.find((one) => one.tag === "SL-0420").id;

/** Moves an input once and waits until a watched text has changed and been painted, ms. */
const moved = (input, value, watched) =>
  page.evaluate(
    ([inputSelector, next, watchedSelector]) =>
      new Promise((resolve) => {
        const element = document.querySelector(inputSelector);
        const text = () => [...document.querySelectorAll(watchedSelector)].map((one) => one.textContent).join();
        const before = text();
        const start = performance.now();
        const look = () =>
          text() !== before
            ? requestAnimationFrame(() => resolve(performance.now() - start))
            : performance.now() - start > 3000
              ? resolve(NaN)
              : requestAnimationFrame(look);
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(element, String(next));
        element.dispatchEvent(new Event("input", { bubbles: true }));
        requestAnimationFrame(look);
      }),
    [input, value, watched],
  );

await page.goto(`${address}/coolers?job=${job}`);
await page.getByRole("list", { name: "Coolers that fit" }).waitFor();
await page.getByLabel("Chip draws").evaluate((element) => element.setAttribute("data-bench", "draws"));
const coolers = [];
for (let i = 0; i < steps; i++) {
  coolers.push(await moved("[data-bench=draws]", 100 + ((i * 35) % 130), "ol[aria-label='Coolers that fit'] .font-mono"));
}
row("what if, coolers: slider moved to answer on screen (aim: 100)", coolers.filter((one) => !Number.isNaN(one)).slice(3));

await page.goto(`${address}/air?job=${job}`);
await page.getByRole("button", { name: /^Radiator/ }).waitFor();
await page.getByText("card alone °C").first().waitFor();
const air = [];
for (let i = 0; i < steps; i++) {
  const name = ["off", "closed"][i % 2];
  await page.getByRole("radio", { name, exact: true }).evaluate((element) => element.setAttribute("data-bench", "panel"));
  air.push(
    await page.evaluate(
      () =>
        new Promise((resolve) => {
          const element = document.querySelector("[data-bench=panel]");
          element.removeAttribute("data-bench");
          const text = () => [...document.querySelectorAll("dl[aria-live] dd")].map((one) => one.textContent).join();
          const before = text();
          const start = performance.now();
          const look = () => (text() !== before ? requestAnimationFrame(() => resolve(performance.now() - start)) : performance.now() - start > 3000 ? resolve(NaN) : requestAnimationFrame(look));
          element.click();
          requestAnimationFrame(look);
        }),
    ),
  );
}
row("what if, air: panel opened to answer on screen (aim: 100)", air.filter((one) => !Number.isNaN(one)).slice(3));
await browser.close();
