/** Headers by which somebody is let in. */
const KEYS = ["cookie", "set-cookie", "x-token"];

interface Logged {
  readonly url?: string;
  readonly headers?: Readonly<Record<string, unknown>>;
}

/** What is logged of a request or an answer: nobody is let in by a log, and no calendar is read by one. */
export function withoutSecrets<T extends Logged>(logged: T): T {
  const { url, headers } = logged;
  return {
    ...logged,
    ...(url === undefined ? {} : { url: url.replace(/(\/api\/calendars\/)[^/?]+/, "$1…") }),
    ...(headers === undefined
      ? {}
      : {
          headers: Object.fromEntries(Object.entries(headers).filter(([name]) => !KEYS.includes(name.toLowerCase()))),
        }),
  };
}
