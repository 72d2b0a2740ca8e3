import qrcode from "qrcode-generator";

/** A QR code as the path of an SVG: unit squares on a field of `size` with the quiet zone of four around. */
export interface QrPath {
  readonly size: number;
  readonly path: string;
}

const QUIET = 4;

/** Medium error correction: a greasy label is still read with 15 % of it gone. */
export function qrPath(text: string): QrPath {
  const code = qrcode(0, "M");
  code.addData(text);
  code.make();
  const count = code.getModuleCount();
  let path = "";
  for (let row = 0; row < count; row += 1)
    for (let column = 0; column < count; column += 1)
      if (code.isDark(row, column)) path += `M${column + QUIET} ${row + QUIET}h1v1h-1z`;
  return { size: count + 2 * QUIET, path };
}
