/**
 * The drawings of the links, on a field 100 wide and 76 high; the drive line runs at y = 46.
 * `heavy` strokes are the link itself, `fine` strokes its detail; `shaft` is the drive line through it.
 */
export interface Drawing {
  readonly heavy: string;
  readonly fine: string;
  readonly shaft: string;
  /** Fills the width of its place: threads, racks, ways. */
  readonly wide?: boolean;
}

const THROUGH = "M-28 46H128";

function box(x: number, y: number, w: number, h: number): string {
  return `M${x} ${y}h${w}v${h}h${-w}z`;
}

function ring(x: number, y: number, r: number): string {
  return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
}

function thread(from: number, to: number, pitch = 10): string {
  let d = `M${from} 38H${to}M${from} 54H${to}`;
  for (let x = from + 4; x + 6 <= to; x += pitch) d += `M${x} 54l6 -16`;
  return d;
}

const motor = (fine: string): Drawing => ({
  heavy: box(20, 24, 58, 44),
  fine: `M20 34h-8v24h8${fine}`,
  shaft: "M78 46H128",
});
const hubs = (fine: string): Drawing => ({
  heavy: box(22, 32, 18, 28) + box(60, 32, 18, 28),
  fine,
  shaft: "M-28 46H22M78 46H128",
});
const bearing = (lock: string): Drawing => ({
  heavy: box(26, 20, 48, 52),
  fine: `${ring(38, 30, 5)}${ring(62, 30, 5)}${ring(38, 62, 5)}${ring(62, 62, 5)}M33 25l10 10M67 25l-10 10M33 67l10 -10M67 67l-10 -10${lock}`,
  shaft: THROUGH,
});
const screw = (ends: string, from = 0, to = 100): Drawing => ({
  heavy: thread(from, to),
  fine: ends,
  shaft: "",
  wide: true,
});
const support = "M88 26v12M88 54v12M82 26h12M82 66h12";
const nutBody = box(18, 26, 52, 40) + box(70, 16, 9, 60);
const balls = `${ring(30, 36, 3)}${ring(44, 36, 3)}${ring(58, 36, 3)}${ring(30, 56, 3)}${ring(44, 56, 3)}${ring(58, 56, 3)}`;
const member = (shape: string, fine = ""): Drawing => ({
  heavy: shape,
  fine,
  shaft: "M-28 46H16",
});
const way = (shape: string, fine: string): Drawing => ({
  heavy: shape,
  fine,
  shaft: "",
});

const DRAWINGS: Record<string, Drawing> = {
  "motor-servo": motor("M32 24v44M44 24v44"),
  "motor-stepper": motor("M49 46l14 0M49 46l-7 12M49 46l-7 -12"),
  "coupling-clamp": hubs("M31 28v8M69 28v8M40 46h20"),
  "coupling-insert": hubs("M44 34v24M50 34v24M56 34v24"),
  "coupling-bellows": hubs("M40 40l4 -6l4 6l4 -6l4 6l4 -6M40 52l4 6l4 -6l4 6l4 -6l4 6"),
  "coupling-disc": hubs("M46 30v32M54 30v32M40 46h6M54 46h6"),
  "coupling-rigid": {
    heavy: box(24, 34, 52, 24),
    fine: "M36 30v8M64 30v8",
    shaft: "M-28 46H24M76 46H128",
  },
  belt: {
    heavy: ring(32, 52, 12) + ring(70, 40, 16),
    fine: "M27 41l37 -16M35 64l40 -9",
    shaft: "M-28 52H20M86 40H128",
  },
  pinion: {
    heavy: ring(50, 42, 20),
    fine: "M50 18v6M50 60v6M26 42h6M68 42h6M33 25l4 4M63 55l4 4M67 25l-4 4M37 55l-4 4",
    shaft: "M-28 46H30",
  },
  rack: {
    heavy: "M0 62H100V72H0z",
    fine: "M4 62l4 -8h6l4 8l4 -8h6l4 8l4 -8h6l4 8l4 -8h6l4 8l4 -8h6l4 8l4 -8h6l4 8",
    shaft: "",
    wide: true,
  },
  "bearing-clamp-nut": bearing("M78 36h9v20h-9zM82 36v-6"),
  "bearing-double-nut-tab": bearing("M77 36h7v20h-7zM88 36h7v20h-7zM84 34v24"),
  "bearing-retainer-ring": bearing("M74 24h7v44h-7M74 30h7M74 62h7"),
  "nut-bearings": bearing("M0 30h26M0 62h26"),
  "screw-fixed-supported": screw(support),
  "screw-fixed-fixed": screw("M82 22h14v14h-14zM82 56h14v14h-14zM82 22l14 14M96 56l-14 14"),
  "screw-fixed-free": screw("M84 38v16", 0, 84),
  "screw-supported-supported": screw(`${support}M12 26v12M12 54v12M6 26h12M6 66h12`),
  "screw-fixed-still": screw(
    "M6 20v52M94 20v52M0 24l6 -4M0 36l6 -4M0 60l6 -4M0 72l6 -4M94 24l6 -4M94 36l6 -4M94 60l6 -4M94 72l6 -4",
    6,
    94,
  ),
  "nut-single-clearance": {
    heavy: nutBody,
    fine: balls,
    shaft: "M-28 38H18M-28 54H18M79 38H128M79 54H128",
  },
  "nut-single-preloaded": {
    heavy: nutBody,
    fine: `${balls}M24 31h40`,
    shaft: "M-28 38H18M-28 54H18M79 38H128M79 54H128",
  },
  "nut-double": {
    heavy: `${nutBody}M44 26v40`,
    fine: `${ring(26, 36, 3)}${ring(37, 36, 3)}${ring(51, 36, 3)}${ring(62, 36, 3)}${ring(26, 56, 3)}${ring(37, 56, 3)}${ring(51, 56, 3)}${ring(62, 56, 3)}`,
    shaft: "M-28 38H18M-28 54H18M79 38H128M79 54H128",
  },
  "nut-anti-backlash": {
    heavy: `${box(14, 28, 24, 36)}${box(56, 28, 24, 36)}`,
    fine: "M38 36l4 -6l5 12l5 -12l4 6M38 58l4 -6l5 12l5 -12l4 6",
    shaft: "M-28 38H14M-28 54H14M80 38H128M80 54H128",
  },
  "nut-rotating": {
    heavy: nutBody,
    fine: `${balls}M50 14a16 10 0 1 1 -14 4M36 12v7h7`,
    shaft: "M-28 38H18M-28 54H18M79 38H128M79 54H128",
  },
  bracket: {
    heavy: "M10 70V22h22v-8h58",
    fine: "M16 30h8M16 62h8M80 10v8",
    shaft: "",
  },
  "member-table": member("M6 18h88v16H6z", "M20 18v6h8v-6M46 18v6h8v-6M72 18v6h8v-6M50 34v12"),
  "member-saddle": member("M6 22h88v12H6zM18 34v10h14v-10M68 34v10h14v-10", "M30 22v-8h40v8"),
  "member-head": member("M26 8h48v48H26zM42 56v12h16v-12", "M42 18h16"),
  "member-gantry": member("M10 70V16h80v54", "M10 28h80M44 28v16h14v-16"),
  "member-carriage": member("M12 22h76v18H12zM34 22v-10h32v10", "M50 40v6"),
  "member-ram": member("M4 26h80v22H4zM84 30h12v14H84", "M4 37h80"),
  "member-quill": member("M38 6h24v44H38zM44 50v18h12v-18", "M38 20h24"),
  "way-box": way("M4 46h92v10H4zM18 56v14h64v-14", "M30 34h40v12M74 36l6 10"),
  "way-dovetail": way("M4 70h92M22 70l12 -20h32l12 20", "M16 46l12 0l-12 20M84 66l-12 -20h12"),
  "way-rail": way(
    "M2 60h96v10H2zM20 38h22v22M58 38h22v22M20 60v-22M58 60v-22M42 60v0M80 60v-22",
    `${ring(27, 52, 2)}${ring(35, 52, 2)}${ring(65, 52, 2)}${ring(73, 52, 2)}`,
  ),
  "way-v-wheel": way(
    `${ring(30, 36, 11)}${ring(70, 36, 11)}M2 52h96`,
    `M30 25v22M70 25v22${ring(30, 36, 3)}${ring(70, 36, 3)}M2 58h96`,
  ),
  "way-crossed-roller": way(
    "M4 30h92v10H4zM4 56h92v10H4z",
    "M16 42l8 12M24 42l-8 12M36 42h8v12h-8zM56 42l8 12M64 42l-8 12M76 42h8v12h-8z",
  ),
  "way-ball-cage": way(
    "M4 30h92v10H4zM4 56h92v10H4z",
    `${ring(24, 48, 5)}${ring(40, 48, 5)}${ring(56, 48, 5)}${ring(72, 48, 5)}M14 48h4M78 48h4`,
  ),
};

/** The drawing of a link; plain screws look like screws with a steep, coarse thread. */
export function drawingOf(name: string): Drawing {
  const plain = name.startsWith("plain-");
  const found = DRAWINGS[plain ? name.replace("plain-", "screw-") : name];
  if (!found) return { heavy: box(20, 30, 60, 32), fine: "", shaft: THROUGH };
  if (!plain) return found;
  const to = name.endsWith("free") ? 84 : 100;
  let d = `M0 38H${to}M0 54H${to}`;
  for (let x = 2; x + 8 <= to; x += 16) d += `M${x} 54l3 -16h4l3 16`;
  return { ...found, heavy: d };
}
