import { spawn, spawnSync } from "node:child_process";
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync, statfsSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { once } from "node:events";
import { ROOT, say } from "./ensure.mjs";

// `node scripts/postgres.mjs COMMAND…`: runs a command beside a PostgreSQL server of its own, on a socket alone, which is
// gone afterwards; IRON_TEST_STORE says where it is. Nothing of it is meant to outlive a power cut.

const VERSIONS = "/usr/lib/postgresql";
/** What Debian’s package brings along for it. */
const USER = "postgres";

/** Where the programs of the newest version lie; null where there are none. */
export function postgresPrograms() {
  const versions = existsSync(VERSIONS) ? readdirSync(VERSIONS) : [];
  const newest = versions.map(Number).sort((a, b) => b - a)[0];
  const folder = join(VERSIONS, String(newest), "bin");
  return existsSync(join(folder, "initdb")) ? folder : null;
}

/** Root does not run one: Debian’s own user does. */
function ownUser() {
  if (process.getuid?.() !== 0) return {};
  const id = (flag) => Number(spawnSync("id", [flag, USER], { encoding: "utf8" }).stdout);
  return { uid: id("-u"), gid: id("-g") };
}

/** In memory where there is room: each test copies a database, ten times as fast as on a disk. */
const MEMORY = "/dev/shm";
const ROOM = 2e9;

function hasRoom(base) {
  if (!existsSync(base)) return false;
  const { bavail, bsize } = statfsSync(base);
  return base !== MEMORY || bavail * bsize > ROOM;
}

/** A folder that the user can work in, with room for a socket’s name, which is 107 bytes at most. */
function ownFolder(user) {
  for (const base of [MEMORY, tmpdir(), "/tmp", "/var/tmp"].filter((b) => b.length < 60 && hasRoom(b))) {
    const folder = mkdtempSync(join(base, "iron-pg-"));
    if (user.uid !== undefined) chownSync(folder, user.uid, user.gid);
    if (spawnSync("test", ["-w", folder], { ...user, cwd: "/" }).status === 0) return folder;
    rmSync(folder, { recursive: true });
  }
  throw new Error(`There is no temporary folder in which ${USER} can work.`);
}

export async function withPostgres(work) {
  const programs = postgresPrograms();
  if (!programs) throw new Error("There is no PostgreSQL here: apt-get install postgresql.");
  const user = ownUser();
  const folder = ownFolder(user);
  const data = join(folder, "data");
  const own = { ...user, cwd: folder };
  const made = spawnSync(
    join(programs, "initdb"),
    ["-D", data, "-U", USER, "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8", "--no-sync"],
    { ...own, encoding: "utf8" },
  );
  if (made.status !== 0) throw new Error(`initdb failed: ${made.stderr}`);
  const set = {
    listen_addresses: "",
    unix_socket_directories: folder,
    fsync: "off",
    synchronous_commit: "off",
    full_page_writes: "off",
    wal_level: "minimal",
    max_wal_senders: "0",
    autovacuum: "off",
    max_connections: "60",
    shared_buffers: "128MB",
    log_min_messages: "fatal",
    log_min_error_statement: "panic",
  };
  const args = Object.entries(set).flatMap(([name, value]) => ["-c", `${name}=${value}`]);
  const server = spawn(join(programs, "postgres"), ["-D", data, ...args], {
    ...own,
    stdio: ["ignore", "ignore", "pipe"],
  });
  let said = "";
  server.stderr.on("data", (text) => (said += text));
  try {
    await answering(programs, folder, () => said);
    return await work(`postgresql://${USER}@localhost/postgres?host=${encodeURIComponent(folder)}`);
  } finally {
    const ended = once(server, "exit");
    if (server.exitCode === null && server.kill("SIGINT")) await ended;
    rmSync(folder, { recursive: true, force: true });
  }
}

async function answering(programs, folder, said) {
  for (let tries = 0; tries < 300; tries += 1) {
    if (spawnSync(join(programs, "pg_isready"), ["-q", "-h", folder]).status === 0) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error(`PostgreSQL does not answer: ${said()}`);
}

if (process.argv[1]?.endsWith("postgres.mjs")) {
  const [command, ...args] = process.argv.slice(2);
  process.exitCode = await withPostgres(async (url) => {
    say("PostgreSQL answers.");
    const child = spawn(command, args, { cwd: ROOT, stdio: "inherit", env: { ...process.env, IRON_TEST_STORE: url } });
    const [status] = await once(child, "exit");
    return status ?? 1;
  });
}
