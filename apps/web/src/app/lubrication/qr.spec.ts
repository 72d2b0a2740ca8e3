import jsQR from "jsqr";
import { qrPath } from "./qr";

/** Paints the squares of the path on a field of pixels, as a printer would. */
function painted(text: string, scale = 4): { data: Uint8ClampedArray; width: number } {
  const { size, path } = qrPath(text);
  const width = size * scale;
  const data = new Uint8ClampedArray(width * width * 4).fill(255);
  for (const [, x, y] of path.matchAll(/M(\d+) (\d+)h1v1h-1z/g))
    for (let i = 0; i < scale; i += 1)
      for (let j = 0; j < scale; j += 1) {
        const at = 4 * ((Number(y) * scale + i) * width + Number(x) * scale + j);
        data[at] = data[at + 1] = data[at + 2] = 0;
      }
  return { data, width };
}

describe("QR codes of the labels", () => {
  it.each([
    "http://localhost:4600/points/7",
    "https://shop.example/machines/12",
    "http://192.0.2.17:4600/points/12345",
  ])("an independent reader (jsQR) reads %s", (text) => {
    const { data, width } = painted(text);
    expect(jsQR(data, width, width)?.data).toBe(text);
  });

  it("is still read with a spot of grease on it", () => {
    const { data, width } = painted("http://localhost:4600/points/7", 6);
    const spot = Math.round(width * 0.14);
    for (let y = 0; y < spot; y += 1)
      for (let x = 0; x < spot; x += 1) {
        const at = 4 * ((Math.round(width * 0.5) + y) * width + Math.round(width * 0.5) + x);
        data[at] = data[at + 1] = data[at + 2] = 0;
      }
    expect(jsQR(data, width, width)?.data).toBe("http://localhost:4600/points/7");
  });
});
