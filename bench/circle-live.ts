import { usualCircles } from "@iron/core";
import type { CircleSession, Floor, MachineWithAxes } from "@iron/contract";
import type { Browser } from "@playwright/test";

/** Ten minutes at 1 kHz, half of them each way round, in messages of a fifth of a second. */
const EACH_WAY = 300_000;
const MESSAGE = 200;
const MOST_MB = 150;

interface Heard {
  onopen: (() => void) | null;
  onmessage: ((event: { data: string }) => void) | null;
}
type Hearing = typeof globalThis & { heard: Heard[] };

/** A circle of the first machine with two axes: its number, and that of its plane. */
async function newCircle(browser: Browser, url: string): Promise<{ readonly id: number; readonly planeId: number }> {
  const { request } = await browser.newContext({ extraHTTPHeaders: { origin: url, "x-working-as": "Ama" } });
  const floor = (await (await request.get(`${url}/api/floor`)).json()) as Floor;
  const machine = floor.machines.find((m) => m.axes.length > 1);
  if (!machine) throw new Error("no machine with two axes");
  const { axes } = (await (await request.get(`${url}/api/machines/${machine.id}`)).json()) as MachineWithAxes;
  const plans = usualCircles(axes.map((a) => a.config)).slice(0, 1);
  const bar = { name: "Bar", resolutionMm: 0.0001, uMm: 0.0005, calibrated: false };
  const data = { plans, bar, temperatureC: null, note: "" };
  const made = (await (
    await request.post(`${url}/api/machines/${machine.id}/circles`, { data })
  ).json()) as CircleSession;
  return { id: made.id, planeId: made.planes[0].id };
}

/** What a session of ten minutes at 1 kHz takes of the browser’s memory, every sample sent through the page. */
export async function liveCircle(browser: Browser, url: string): Promise<boolean> {
  const { id, planeId } = await newCircle(browser, url);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    const here = globalThis as Hearing;
    here.heard = [];
    Object.assign(globalThis, {
      EventSource: class implements Heard {
        onopen = null;
        onmessage = null;
        constructor() {
          here.heard.push(this);
        }
        close(): void {
          here.heard = here.heard.filter((one) => one !== this);
        }
      },
    });
  });
  await page.route(`**/api/circles/${id}`, async (route) => {
    const response = await route.fetch();
    const session = (await response.json()) as CircleSession;
    await route.fulfill({ response, json: { ...session, reading: planeId } });
  });
  const cdp = await page.context().newCDPSession(page);
  await cdp.send("Performance.enable");
  const usedMb = async (): Promise<number> => {
    const { metrics } = await cdp.send("Performance.getMetrics");
    return (metrics.find((m) => m.name === "JSHeapUsedSize")?.value ?? NaN) / 1e6;
  };
  await page.goto(`${url}/circles/${id}`);
  await page.waitForFunction(() => (globalThis as Hearing).heard.length > 0);
  await cdp.send("HeapProfiler.collectGarbage");
  const before = await usedMb();
  let most = before;
  for (const direction of [1, -1])
    for (let from = 0; from < EACH_WAY; from += 50 * MESSAGE) {
      await page.evaluate(
        async ({ planeId: plane, way, begin, size, of }) => {
          for (let at = begin; at < begin + 50 * size; at += size) {
            const values = Array.from({ length: size }, (_, i) => 5 * Math.sin((at + i) / 1000));
            const data = { planeId: plane, direction: way, rateHz: 1000, from: at, values, of, ended: false };
            (globalThis as Hearing).heard.forEach((one) => one.onmessage?.({ data: JSON.stringify(data) }));
            await new Promise((done) => requestAnimationFrame(done));
          }
        },
        { planeId, way: direction, begin: from, size: MESSAGE, of: EACH_WAY },
      );
      most = Math.max(most, await usedMb());
    }
  const seen = await page.locator("ip-live-trace .far").textContent();
  await cdp.send("HeapProfiler.collectGarbage");
  const after = await usedMb();
  await page.close();
  console.log(
    `Circle of 10 min at 1 kHz through the page (${seen?.trim() ?? "nothing drawn"}): ${before.toFixed(0)} MB before, at most ${most.toFixed(0)} MB, ${after.toFixed(0)} MB kept (at most ${MOST_MB})`,
  );
  return most <= MOST_MB && seen !== null;
}
