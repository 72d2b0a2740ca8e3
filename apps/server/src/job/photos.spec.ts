import { randomUUID } from "node:crypto";
import sharp, { type Sharp } from "sharp";
import { remakePhoto } from "../threads/photo";
import { newAxis, testApp, USUAL } from "../testing/test-app";

/** Red, green, blue and white corners, and a way to see which is where. */
async function corners(): Promise<Sharp> {
  const quarter = (background: string) =>
    sharp({ create: { width: 40, height: 20, channels: 3, background } })
      .png()
      .toBuffer();
  const [red, green, blue, white] = await Promise.all(["#f00", "#0f0", "#00f", "#fff"].map(quarter));
  return sharp({
    create: { width: 80, height: 40, channels: 3, background: "#000" },
  }).composite([
    { input: red, left: 0, top: 0 },
    { input: green, left: 40, top: 0 },
    { input: blue, left: 0, top: 20 },
    { input: white, left: 40, top: 20 },
  ]);
}

async function cornersOf(bytes: Uint8Array): Promise<string[]> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number): string => {
    const [r, g, b] = [0, 1, 2].map((c) => data[(y * info.width + x) * info.channels + c] > 128);
    return r && g && b ? "white" : r ? "red" : g ? "green" : b ? "blue" : "black";
  };
  const [w, h] = [info.width - 4, info.height - 4];
  return [at(3, 3), at(w, 3), at(3, h), at(w, h)];
}

const remade = async (bytes: Uint8Array) => {
  const made = await remakePhoto({ bytes });
  if (made.kind === "refused") throw new Error(made.why);
  return made;
};
const PLACE = "52 deg 11' N, the yard";

describe("a photo from outside", () => {
  it("is turned as it was held, whatever its tag says", async () => {
    // EXIF 2.32, tag 0x0112: how the 0th row and column lie; where red stands when it is shown right.
    const shown: Record<number, string[]> = {
      1: ["red", "green", "blue", "white"],
      2: ["green", "red", "white", "blue"],
      3: ["white", "blue", "green", "red"],
      4: ["blue", "white", "red", "green"],
      5: ["red", "blue", "green", "white"],
      6: ["blue", "red", "white", "green"],
      7: ["white", "green", "blue", "red"],
      8: ["green", "white", "red", "blue"],
    };
    for (const [orientation, wanted] of Object.entries(shown)) {
      const held = await (
        await corners()
      )
        .jpeg({ quality: 100, chromaSubsampling: "4:4:4" })
        .withMetadata({ orientation: Number(orientation) })
        .toBuffer();
      const { bytes, media } = await remade(held);
      expect([orientation, media, await cornersOf(bytes)]).toEqual([orientation, "image/jpeg", wanted]);
      expect((await sharp(bytes).metadata()).orientation).toBeUndefined();
    }
  });

  it("loses place, owner and every text, also in a second image, after its end, and between", async () => {
    const one = await (
      await corners()
    )
      .jpeg()
      .withExif({
        IFD0: { Copyright: PLACE, Artist: "Somebody" },
        IFD3: { GPSLatitudeRef: "N", GPSLatitude: "52/1 11/1 0/1" },
      })
      .toBuffer();
    expect((await sharp(one).metadata()).exif?.length).toBeGreaterThan(50);
    const comment = Buffer.concat([Buffer.from([0xff, 0xfe, 0, PLACE.length + 2]), Buffer.from(PLACE)]);
    // Fill bytes before a marker are allowed (ITU-T T.81, B.1.1.2).
    const filled = Buffer.concat([
      one.subarray(0, 2),
      Buffer.from([0xff, 0xff, 0xff]),
      comment.subarray(1),
      one.subarray(2),
    ]);
    const png = await (
      await corners()
    )
      .png()
      .withExif({ IFD0: { Copyright: PLACE } })
      .toBuffer();
    for (const file of [
      one,
      Buffer.concat([one, one]),
      Buffer.concat([one, Buffer.from(PLACE)]),
      filled,
      png,
      Buffer.concat([png, Buffer.from(PLACE)]),
    ]) {
      const { bytes } = await remade(file);
      const text = Buffer.from(bytes).toString("latin1");
      for (const none of [PLACE, "Somebody", "Exif", "GPS", "http://ns.adobe.com"])
        expect(text.includes(none)).toBe(false);
      const { exif, xmp, iptc } = await sharp(bytes).metadata();
      expect([exif, xmp, iptc]).toEqual([undefined, undefined, undefined]);
      expect(await cornersOf(bytes)).toEqual(["red", "green", "blue", "white"]);
    }
  });

  it("as a phone makes it is shrunk; a small one keeps its size", async () => {
    const noise = { type: "gaussian" as const, mean: 128, sigma: 40 };
    const large = await sharp({
      create: {
        width: 4000,
        height: 3000,
        channels: 3,
        background: "#888",
        noise,
      },
    })
      .jpeg({ quality: 95 })
      .toBuffer();
    expect(large.length).toBeGreaterThan(6_500_000);
    const { bytes } = await remade(large);
    expect(await sharp(bytes).metadata()).toMatchObject({
      width: 2400,
      height: 1800,
    });
    expect(bytes.length).toBeLessThan(large.length / 2);
    const small = await remade(await (await corners()).png().toBuffer());
    expect([small.media, (await sharp(small.bytes).metadata()).width]).toEqual(["image/png", 80]);
  });

  it("with more pixels than anybody has is refused by its head, before it is decoded; so is what is none", async () => {
    // PNG, 4.1 and 11.2.2: the head says how large it is, and the rest is as small as it likes.
    const bomb = await sharp({
      create: { width: 10, height: 10, channels: 3, background: "#000" },
    })
      .png()
      .toBuffer();
    bomb.writeUInt32BE(30_000, 16);
    bomb.writeUInt32BE(30_000, 20);
    bomb.writeUInt32BE(crc32(bomb.subarray(12, 29)), 29);
    const refused = async (bytes: Uint8Array): Promise<string> => {
      const made = await remakePhoto({ bytes });
      return made.kind === "refused" ? made.why : "taken";
    };
    expect(await refused(bomb)).toBe("it has 30000 × 30000 pixels, 900 million: at most 100 million are taken");
    const whole = await (await corners()).jpeg().toBuffer();
    expect(await refused(await sharp(whole).gif().toBuffer())).toBe("it is neither JPEG nor PNG");
    for (const none of [
      Buffer.from("hello"),
      Buffer.alloc(0),
      whole.subarray(0, 200),
      Buffer.from("<svg xmlns='http://www.w3.org/2000/svg'/>"),
    ])
      expect(await refused(none)).not.toBe("taken");
  });

  it("is kept remade, once for its key, and refused in words over the API", async () => {
    const t = await testApp();
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL)).body as {
      id: number;
    }[];
    const key = randomUUID();
    const send = (body: Buffer, k = key) =>
      t.api.post(`/api/lube-points/${point.id}/photos?key=${k}`).set("content-type", "image/jpeg").send(body);
    const held = await (
      await corners()
    )
      .jpeg()
      .withMetadata({ orientation: 6 })
      .withExif({ IFD0: { Copyright: PLACE, Orientation: "6" } })
      .toBuffer();
    const kept = (await send(held).expect(201)).body as {
      photos: { id: number }[];
    };
    expect(((await send(held).expect(201)).body as { photos: unknown[] }).photos).toHaveLength(1);
    const shown = (await t.api.get(`/api/lube-photos/${kept.photos[0].id}`).expect(200)).body as Buffer;
    expect(shown.includes(PLACE)).toBe(false);
    expect((await send(Buffer.from("no picture"), randomUUID()).expect(422)).body).toMatchObject({
      detail: expect.stringContaining("cannot be used as a photo") as string,
    });
    await send(Buffer.alloc(25_000_001), randomUUID()).expect(413);
    await t.close();
  });
});

/** CRC-32 of PNG, annex D: bit by bit. */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k += 1) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return (crc ^ 0xffffffff) >>> 0;
}
