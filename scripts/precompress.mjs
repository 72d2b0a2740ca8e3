import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";

const TEXT = /\.(js|css|svg|json)$/;
/** Less than a packet or so is not worth a second file. */
const LEAST_BYTES = 1024;

/**
 * Lays a Brotli and a gzip copy beside every text file of the built web app, packed as tightly as each can: the
 * server sends them as they are instead of packing the app again for every tablet that opens it. Both, because
 * browsers take Brotli only over a secure connection.
 */
export async function precompress(folder) {
  const files = readdirSync(folder, { recursive: true })
    .map((name) => join(folder, String(name)))
    .filter((path) => TEXT.test(path) && statSync(path).size >= LEAST_BYTES);
  await Promise.all(
    files.map(async (path) => {
      const bytes = readFileSync(path);
      const [br, gz] = await Promise.all([
        promisify(brotliCompress)(bytes, {
          params: { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
        }),
        promisify(gzip)(bytes, { level: 9 }),
      ]);
      writeFileSync(`${path}.br`, br);
      writeFileSync(`${path}.gz`, gz);
    }),
  );
}
