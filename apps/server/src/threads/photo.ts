import sharp from "sharp";

/** Longest side of a photo that is kept, px: a nipple, a crack and a label can be read on it. */
const LONGEST_PX = 2400;
/** Pixels that are decoded at most: a phone has 12 to 50 million, a bomb thousands of millions. */
const MOST_PIXELS = 100_000_000;
const QUALITY = 85;

export interface PhotoAsked {
  readonly bytes: Uint8Array;
}

export type PhotoMade =
  | {
      readonly kind: "photo";
      readonly media: "image/jpeg" | "image/png";
      readonly bytes: Uint8Array;
    }
  | { readonly kind: "refused"; readonly why: string };

/**
 * A photo as it is kept: decoded and written anew, so that nothing of the file is left but the picture
 * itself: no place, no owner, no second image, no text before, in or after it. It is turned as it was
 * held, and shrunk where it is larger than anybody looks at. Pixels are counted from its head first.
 */
export async function remakePhoto({ bytes }: PhotoAsked): Promise<PhotoMade> {
  const refused = (why: string): PhotoMade => ({ kind: "refused", why });
  const options = {
    limitInputPixels: MOST_PIXELS,
    failOn: "error",
    sequentialRead: true,
  } as const;
  try {
    const head = await sharp(bytes, {
      ...options,
      limitInputPixels: false,
    }).metadata();
    if (head.format !== "jpeg" && head.format !== "png") return refused("it is neither JPEG nor PNG");
    if (head.width * head.height > MOST_PIXELS)
      return refused(
        `it has ${head.width} × ${head.height} pixels, ${Math.round((head.width * head.height) / 1e6)} million: at most ${MOST_PIXELS / 1e6} million are taken`,
      );
    const picture = sharp(bytes, options)
      .autoOrient()
      .resize({
        width: LONGEST_PX,
        height: LONGEST_PX,
        fit: "inside",
        withoutEnlargement: true,
      })
      .toColourspace("srgb");
    if (head.format === "png")
      return {
        kind: "photo",
        media: "image/png",
        bytes: await picture.png().toBuffer(),
      };
    return {
      kind: "photo",
      media: "image/jpeg",
      bytes: await picture.jpeg({ quality: QUALITY, mozjpeg: true }).toBuffer(),
    };
  } catch {
    // What its decoder says of a file is of no use to a technician.
    return refused("it is damaged, or neither JPEG nor PNG");
  }
}
