/**
 * Tightening torques of metric screws, N·m, coefficient of friction 0.12 under head and in thread
 * (VDI 2230 part 1, table A1, from memory), by thread and property class. Steel into steel or iron:
 * into aluminium or plastic less, by the book or snug.
 */
// prettier-ignore
export const TORQUES_NM: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  M3:  { "8.8":   1.3, "10.9":   1.8, "12.9":   2.1 },
  M4:  { "8.8":   3.0, "10.9":   4.4, "12.9":   5.1 },
  M5:  { "8.8":   5.9, "10.9":   8.6, "12.9":  10.0 },
  M6:  { "8.8":  10.1, "10.9":  14.9, "12.9":  17.4 },
  M8:  { "8.8":  24.6, "10.9":  36.1, "12.9":  42.2 },
  M10: { "8.8":  48.0, "10.9":  71.0, "12.9":  83.0 },
  M12: { "8.8":  84.0, "10.9": 123.0, "12.9": 144.0 },
  M16: { "8.8": 206.0, "10.9": 302.0, "12.9": 354.0 },
  M20: { "8.8": 415.0, "10.9": 592.0, "12.9": 692.0 },
};
