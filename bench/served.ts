import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import { Agent, request } from "node:http";

export interface Answer {
  readonly status: number;
  readonly type: string;
  readonly bytes: number;
  /** The first five million bytes of it. */
  readonly text: string;
  /** What a browser would send back; empty where none was given. */
  readonly cookie: string;
}

/** The server as it is built, in a process of its own, on a port that is free. */
export class Served {
  private readonly agent = new Agent({ maxSockets: 64 });
  private constructor(
    private readonly child: ChildProcess,
    private readonly port: number,
  ) {}

  /** Starts it on a folder; what it says is the error when it ends instead. */
  static start(folder: string, ...more: readonly string[]): Promise<Served> {
    const child = spawn(process.execPath, ["dist/server/main.cjs", "--data", folder, "--port", "0", ...more], {
      stdio: ["ignore", "pipe", "pipe"],
      env: { ...process.env, LOG_LEVEL: "fatal" },
    });
    return new Promise((done, fail) => {
      let said = "";
      const hear = (data: Buffer): void => {
        said += data.toString();
        const port = /http:\/\/[^/]+:(\d+)\//.exec(said)?.[1];
        if (port) done(new Served(child, Number(port)));
      };
      child.stdout.on("data", hear);
      child.stderr.on("data", hear);
      child.once("exit", () => fail(new Error(said)));
    });
  }

  get url(): string {
    return `http://localhost:${this.port}`;
  }

  ask(
    method: string,
    {
      path,
      headers = {},
      body,
    }: { readonly path: string; readonly headers?: Readonly<Record<string, string>>; readonly body?: string },
  ): Promise<Answer> {
    const length = body === undefined ? {} : { "content-length": String(Buffer.byteLength(body)) };
    return new Promise((done, fail) => {
      const asked = request(
        {
          host: "127.0.0.1",
          port: this.port,
          method,
          path,
          agent: this.agent,
          headers: { ...headers, ...length },
        },
        (response) => {
          let [bytes, text] = [0, ""];
          response.on("data", (part: Buffer) => {
            bytes += part.length;
            if (bytes < 5_000_000) text += part.toString();
          });
          response.on("end", () =>
            done({
              status: response.statusCode ?? 0,
              type: response.headers["content-type"] ?? "",
              ...{ bytes, text, cookie: (response.headers["set-cookie"]?.[0] ?? "").split(";")[0] },
            }),
          );
          response.on("error", fail);
        },
      );
      asked.on("error", fail);
      asked.end(body);
    });
  }

  send(method: string, path: string, body: unknown): Promise<Answer> {
    const headers = {
      "x-working-as": "Ama",
      "content-type": "application/json",
    };
    return this.ask(method, { path, headers, body: JSON.stringify(body) });
  }

  /** A stream of events, until it is closed; each event is told. */
  stream(path: string, headers: Readonly<Record<string, string>>, heard: () => void): Promise<() => void> {
    return new Promise((done, fail) => {
      const asked = request({ host: "127.0.0.1", port: this.port, path, headers, agent: false }, (response) => {
        if (response.statusCode !== 200) {
          fail(new Error(`${path}: ${response.statusCode}`));
          return;
        }
        response.on("data", (part: Buffer) => {
          for (const line of part.toString().split("\n")) if (line.startsWith("data:")) heard();
        });
        response.on("error", () => undefined);
        done(() => asked.destroy());
      });
      asked.on("error", fail);
      asked.end();
    });
  }

  /** Memory that its process holds, MB. */
  memory(): number {
    const status = readFileSync(`/proc/${this.child.pid}/status`, "utf8");
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1]) / 1024;
  }

  async end(signal: "SIGKILL" | "SIGTERM" = "SIGTERM"): Promise<void> {
    this.agent.destroy();
    const ended = new Promise((done) => this.child.once("exit", done));
    this.child.kill(signal);
    await ended;
  }
}
