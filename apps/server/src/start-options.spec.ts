import { optionsFromCommandLine } from "./start-options";

describe("how the server is started", () => {
  const kind = (...args: readonly string[]): string => optionsFromCommandLine(args).wire.kind;

  it("on this machine alone nothing is asked for", () => {
    expect(kind()).toBe("open");
    expect(kind("--host", "localhost")).toBe("open");
    expect(kind("--host", "::1")).toBe("open");
  });

  it("on a network it does not start before it is said how it is encrypted", () => {
    for (const host of ["0.0.0.0", "::", "10.0.0.7", "shop.test"])
      expect(() => kind("--host", host)).toThrow(/^Not started: on .* could read PINs/);
    expect(kind("--host", "0.0.0.0", "--made-certificate")).toBe("made");
    expect(kind("--host", "0.0.0.0", "--behind-proxy")).toBe("proxy");
    expect(kind("--host", "0.0.0.0", "--certificate", "c.pem", "--key", "k.pem")).toBe("own");
  });

  it("half a certificate, two ways at once and what is no port are refused in words", () => {
    expect(() => kind("--certificate", "c.pem")).toThrow("give both");
    expect(() => kind("--key", "k.pem")).toThrow("give both");
    expect(() => kind("--made-certificate", "--behind-proxy")).toThrow("Choose one");
    expect(() => kind("--port", "http")).toThrow('The port is "http"');
    expect(() => kind("--simulation-speed", "0")).toThrow("above 0");
  });

  it("a backup needs no network", () => {
    expect(optionsFromCommandLine(["backup", "--host", "0.0.0.0"]).wire.kind).toBe("open");
  });
});
