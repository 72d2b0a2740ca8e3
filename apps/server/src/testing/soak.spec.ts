import { requests, unlike } from "./requests";
import { testApp, type TestApp } from "./test-app";
import { rowsWritten } from "./test-store";

/** The short form of `npm run soak`: some thousand requests made from the OpenAPI document. */
describe("requests as the document says, and spoilt", () => {
  let t: TestApp;
  afterEach(() => t.close());

  async function demo(simulate: boolean): Promise<void> {
    t = await testApp({ simulate, demo: true });
    t.app.tend();
  }
  /**
   * Rows written so far; what a change has moved in the rounds is settled before they are counted: what is new is placed
   * first, and whoever asks next, were it with something that is refused, may move it with the rest to make one stop of it.
   */
  async function written(): Promise<number> {
    let [now, before] = [-1, -2];
    while (now !== before) {
      before = now;
      t.app.tend();
      await t.api.get("/api/rounds");
      now = await rowsWritten(t.db);
    }
    return now;
  }

  it.each([
    // Stand-ins that move note by themselves where they rest.
    ["without machines", false, 700],
    ["with simulated machines", true, 300],
  ])(
    "%s: answered or refused in words, never with a failure; a refused one writes nothing",
    async (_, simulate, count) => {
      await demo(simulate);
      const next = requests(20_261_126 + count);
      const statuses = new Map<number, number>();
      let spoiltAndRefused = 0;
      for (let i = 0; i < count; i += 1) {
        const asked = next();
        const looked = !simulate && i % 5 === 0;
        const before = looked ? await written() : 0;
        let request = t.api[asked.method.toLowerCase() as "get"](asked.path);
        for (const [name, value] of Object.entries(asked.headers)) request = request.set(name, value);
        const answer = asked.body === undefined ? await request : await request.send(asked.body);
        const wrong = unlike(asked, {
          status: answer.status,
          type: String(answer.headers["content-type"] ?? ""),
          text: answer.text ?? "",
        });
        if (wrong) throw new Error(wrong);
        statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
        if (answer.status < 400) continue;
        if (asked.spoilt) spoiltAndRefused += 1;
        if (looked && (await written()) !== before)
          throw new Error(
            `refused, and written all the same: ${asked.method} ${asked.path} ${asked.spoilt} ${asked.body ?? ""}`,
          );
      }
      // It is no test of refusals alone, nor of good ones.
      expect(statuses.get(200) ?? 0).toBeGreaterThan(count / 8);
      expect(statuses.get(422) ?? 0).toBeGreaterThan(count / 20);
      expect(spoiltAndRefused).toBeGreaterThan(count / 6);
    },
  );
});
