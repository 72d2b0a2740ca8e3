/** What goes to the server as it is, bytes. */
export const SMALL_PHOTO = 2_000_000;
/** Longest side of what is sent of a larger one, px: what the server keeps. */
const LONGEST_PX = 2400;
const QUALITY = 0.85;

/**
 * A photo that a shop’s network takes quickly: what a phone makes is shrunk before it is sent, turned as
 * it was held. What cannot be read here goes as it is; the server says what is wrong with it.
 */
export async function shrinkPhoto(file: Blob): Promise<Blob> {
  if (file.size <= SMALL_PHOTO || typeof createImageBitmap === "undefined") return file;
  try {
    const whole = await createImageBitmap(file);
    const scale = Math.min(1, LONGEST_PX / Math.max(whole.width, whole.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(whole.width * scale);
    canvas.height = Math.round(whole.height * scale);
    canvas.getContext("2d")?.drawImage(whole, 0, 0, canvas.width, canvas.height);
    whole.close();
    const small = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
    return small && small.size < file.size ? small : file;
  } catch {
    return file;
  }
}
