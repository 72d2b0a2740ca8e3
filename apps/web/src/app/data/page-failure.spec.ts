import { ErrorHandler } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { hearNotices, setUpBed } from "../../testing/place";
import { PageFailure } from "./page-failure";

describe("a page that fails", () => {
  it("says so: nothing is taken for kept that was never sent", () => {
    setUpBed({ provide: ErrorHandler, useClass: PageFailure });
    const said = hearNotices();
    const logged = jest.spyOn(console, "error").mockImplementation(() => undefined);
    TestBed.inject(ErrorHandler).handleError(new Error("no such thing."));
    logged.mockRestore();
    expect(said.join()).toMatch(/not kept: no such thing\. What you typed/);
  });

  it("keys are made without a secure origin, and differ", async () => {
    const own = globalThis.crypto.randomUUID.bind(globalThis.crypto);
    Object.defineProperty(globalThis.crypto, "randomUUID", {
      value: undefined,
      configurable: true,
    });
    const keys = new Set<string>();
    // Read anew: what the package finds on the page is looked up as it loads.
    await jest.isolateModulesAsync(async () => {
      const { newKey } = await import("./new-key");
      for (let i = 0; i < 1000; i += 1) keys.add(newKey());
    });
    Object.defineProperty(globalThis.crypto, "randomUUID", {
      value: own,
      configurable: true,
    });
    expect(keys.size).toBe(1000);
    for (const key of keys) expect(key).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4/);
  });
});
