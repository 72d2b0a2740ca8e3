import { problem } from "./problem-error";

/** Largest photo taken, bytes. */
export const LARGEST_PHOTO = 6_000_000;

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
/** Chunks of a PNG that make the picture; all others (text, EXIF, time) are dropped. */
const PNG_KEPT = new Set(["IHDR", "PLTE", "IDAT", "IEND", "tRNS", "gAMA", "cHRM", "sRGB", "sBIT", "pHYs"]); // prettier-ignore

export interface CleanPhoto {
  readonly media: "image/jpeg" | "image/png";
  readonly bytes: Buffer;
}

/**
 * A photo without what does not belong to the picture: EXIF with place and owner, comments, texts.
 * Its structure is walked from end to end; what is no well-formed JPEG or PNG is refused.
 */
export function cleanPhoto(bytes: Buffer): CleanPhoto {
  if (bytes.length > LARGEST_PHOTO)
    throw problem(413, "Too large", `The photo has ${(bytes.length / 1e6).toFixed(1)} MB: at most ${LARGEST_PHOTO / 1e6} MB are taken.`); // prettier-ignore
  if (bytes.subarray(0, 8).equals(PNG))
    return { media: "image/png", bytes: cleanPng(bytes) };
  if (bytes[0] === 0xff && bytes[1] === 0xd8)
    return { media: "image/jpeg", bytes: cleanJpeg(bytes) };
  throw notAPhoto("it is neither JPEG nor PNG");
}

function notAPhoto(why: string) {
  return problem(422, "Not a photo", `This file cannot be used as a photo: ${why}.`); // prettier-ignore
}

function cleanPng(bytes: Buffer): Buffer {
  const kept: Buffer[] = [PNG];
  let at = 8;
  let ended = false;
  while (at + 12 <= bytes.length && !ended) {
    const length = bytes.readUInt32BE(at);
    const name = bytes.toString("latin1", at + 4, at + 8);
    const end = at + 12 + length;
    if (end > bytes.length) throw notAPhoto("the PNG is cut short");
    if (PNG_KEPT.has(name)) kept.push(bytes.subarray(at, end));
    ended = name === "IEND";
    at = end;
  }
  if (!ended || kept.length < 4)
    throw notAPhoto("the PNG has no picture in it");
  return Buffer.concat(kept);
}

function cleanJpeg(bytes: Buffer): Buffer {
  const kept: Buffer[] = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length) {
    if (bytes[at] !== 0xff) throw notAPhoto("the JPEG is damaged");
    const marker = bytes[at + 1];
    const end = at + 2 + bytes.readUInt16BE(at + 2);
    if (end > bytes.length) throw notAPhoto("the JPEG is cut short");
    // APP1 to APP15 and comments go; APP0 (density) and everything that makes the picture stays.
    const dropped = (marker >= 0xe1 && marker <= 0xef) || marker === 0xfe;
    if (!dropped) kept.push(bytes.subarray(at, end));
    at = end;
    if (marker !== 0xda) continue;
    const last = bytes.lastIndexOf(Buffer.from([0xff, 0xd9]));
    if (last < at) throw notAPhoto("the JPEG is cut short");
    kept.push(bytes.subarray(at, last + 2));
    return Buffer.concat(kept);
  }
  throw notAPhoto("the JPEG has no picture in it");
}
