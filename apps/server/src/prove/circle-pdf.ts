import {
  circleValue,
  conformityText,
  findingName,
  findingSentence,
  formatSize,
  formatWithU,
  fromMm,
  judgeCircle,
  roundText,
  trembleText,
  type CircleAnalysis,
  type CircleLimits,
  type CirclePart,
  type CircleTrace,
  type UnitSystem,
} from "@iron/core";
import type { Axis, CirclePlane, CircleSession } from "@iron/contract";
import type PDFDocument from "pdfkit";

const FONT = "@fontsource/b612/files/b612-latin-";
const MARGIN = 40;
const WIDTH = 515;
const QUIET = "#555555";
const COLOURS = { 1: "#2b3f98", [-1]: "#a94e1c" } as const;
/** Rows told of a plane: what is over its limit first. */
const ROWS = 4;

type Doc = InstanceType<typeof PDFDocument>;

export interface CirclePaper {
  readonly session: CircleSession;
  readonly nickname: string;
  readonly bay: string;
  readonly axes: readonly Axis[];
  readonly traces: ReadonlyMap<number, readonly CircleTrace[]>;
  readonly system: UnitSystem;
}

/** A session of circles on one page: each plane drawn, what it says and the standard’s quantities. */
export async function circlePdf(paper: CirclePaper): Promise<Buffer> {
  // Loaded for the first paper, as with jobs.
  const pdfkit = await import("pdfkit");
  const doc = new pdfkit.default({ size: "A4", margin: MARGIN, info: { Title: `Circle, ${paper.nickname}` } });
  const chunks: Buffer[] = [];
  doc.registerFont("plain", require.resolve(`${FONT}400-normal.woff`));
  doc.registerFont("bold", require.resolve(`${FONT}700-normal.woff`));
  write(doc, paper);
  return new Promise((resolve, reject) => {
    doc.on("data", (chunk: Buffer) => chunks.push(chunk));
    doc.on("end", () => resolve(Buffer.concat(chunks)));
    doc.on("error", reject);
    doc.end();
  });
}

const moment = (at: string): string =>
  new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" }).format(new Date(at));

function write(doc: Doc, paper: CirclePaper): void {
  const { session, nickname, bay } = paper;
  doc.font("bold").fontSize(15).text(`Circle: ${nickname}, bay ${bay}`);
  const state = { open: "Not ended yet. ", abandoned: "Given up. ", finished: "" }[session.state];
  const warm = session.temperatureC === null ? "temperature not noted" : `${session.temperatureC} °C`;
  doc.font("plain").fontSize(9);
  doc.text(
    `${state}Begun ${moment(session.startedAt)} by ${session.by}. ${session.bar.name}, ${warm}. ${session.note}`,
  );
  const read = session.planes.filter((p) => p.analysis);
  if (read.length === 0) doc.moveDown().text("No plane has been read.");
  for (const plane of read.slice(0, 3)) writePlane(doc, plane, paper);
  const by =
    session.limits.at === null ? "the usual limits" : `limits set by ${session.limits.by}: ${session.limits.why}`;
  doc.moveDown(0.8).fontSize(8).fillColor(QUIET);
  doc.text(
    `Judged by ${by}; the loss of an axis by that axis’ own. ± about 95 %. Quantities of ISO 230-4:2005, least-squares rings.`,
    MARGIN,
  );
}

function writePlane(doc: Doc, plane: CirclePlane, { session, axes, traces, system }: CirclePaper): void {
  const { analysis, plan } = plane;
  if (!analysis) return;
  const letters = plan.letters as readonly [string, string];
  doc.moveDown(0.7).fillColor("black").font("bold").fontSize(11);
  doc.text(
    `${letters.join("")}: radius ${formatSize(plan.radiusMm, system)}, ${formatSize(plan.feedMmMin, system)}/min, ${plan.spanDeg}°`,
    MARGIN,
  );
  draw(
    doc,
    (traces.get(plane.id) ?? []).map((t) => centred(t, analysis)),
    system,
  );
  doc.font("plain").fontSize(9);
  const judged = analysis.findings
    .map((f) => ({ f, word: conformityText(judgeCircle(f.kind, f, limitsOf(session.limits.limits, f.letter, axes))) }))
    .filter(({ f, word }) => word !== "sound" && Math.abs(f.value) > f.u)
    .slice(0, ROWS);
  for (const { f, word } of judged)
    doc.text(
      `${findingName(f, letters)} (${word}). ${findingSentence(f, letters, { system, feedMmMin: plan.feedMmMin })}`,
      MARGIN,
    );
  if (judged.length === 0) doc.text("No part of it is over its limit.", MARGIN);
  const tremble = ([0, 1] as const).map(
    (i) =>
      `${letters[i]} ${circleValue("tremble", { value: analysis.tremble.rmsMm[i], u: analysis.tremble.uMm[i] }, system)}`,
  );
  const lines = analysis.tremble.lines.map((l) => trembleText(l, system));
  doc.text(`Tremble, RMS: ${[tremble.join(", "), ...lines].join("; ")}.`, MARGIN);
  const q = analysis.quantities;
  const amount = (mm: number): string => formatWithU(mm, analysis.quantitiesU, { system });
  const iso = [
    ...q.g.map((g) => `G ${roundText(g.direction)} ${amount(g.mm)}`),
    ...(q.gBoth === null ? [] : [`G(b) ${amount(q.gBoth)}`]),
    ...(q.h === null ? [] : [`H ${amount(q.h.mm)}`]),
    ...(q.d === null ? [] : [`D ${amount(q.d)}`]),
  ];
  doc.fillColor(QUIET).text(iso.join("; "), MARGIN).fillColor("black");
}

/** Centre and radius are how the bar was set, not what the machine does. */
function centred(trace: CircleTrace, { parts }: CircleAnalysis): CircleTrace {
  const of = (id: CirclePart): number => parts.find((p) => p.id === id)?.fitted ?? 0;
  const [radius, x, y] = [of("radius"), of("centre-1"), of("centre-2")];
  const deviations = trace.deviations.map(
    (d, i) => d - radius - x * Math.cos(trace.angles[i]) - y * Math.sin(trace.angles[i]),
  );
  return { ...trace, deviations };
}

function limitsOf(limits: CircleLimits, letter: string | null, axes: readonly Axis[]): CircleLimits {
  const own = axes.find((a) => a.config.letter === letter)?.config.limits;
  return own ? { ...limits, lost: { leave: own.leaveMm, repair: own.repairMm } } : limits;
}

/** Deviation against angle, the quarters ruled. */
function draw(doc: Doc, traces: readonly CircleTrace[], system: UnitSystem): void {
  const height = 84;
  const top = doc.y + 4;
  const most = traces.reduce((m, t) => t.deviations.reduce((a, d) => Math.max(a, Math.abs(d)), m), 1e-4);
  const x = (deg: number): number => MARGIN + (WIDTH * deg) / 360;
  const y = (mm: number): number => top + height / 2 - (mm / most) * (height / 2 - 2);
  doc.lineWidth(0.5).strokeColor("#cfc8b8");
  for (const deg of [0, 90, 180, 270, 360])
    doc
      .moveTo(x(deg), top)
      .lineTo(x(deg), top + height)
      .stroke();
  doc.moveTo(x(0), y(0)).lineTo(x(360), y(0)).stroke();
  for (const { direction, angles, deviations } of traces) {
    const every = Math.max(1, Math.floor(angles.length / 900));
    doc.lineWidth(0.7).strokeColor(COLOURS[direction]);
    if (direction === -1) doc.dash(3, { space: 2 });
    let before = NaN;
    for (let i = 0; i < angles.length; i += every) {
      const deg = ((((angles[i] * 180) / Math.PI) % 360) + 360) % 360;
      if (Math.abs(deg - before) < 15) doc.lineTo(x(deg), y(deviations[i]));
      else doc.moveTo(x(deg), y(deviations[i]));
      before = deg;
    }
    doc.stroke().undash();
  }
  const unit = system === "metric" ? "um" : "tenth";
  doc.y = top + height + 3;
  doc.font("plain").fontSize(7).fillColor(QUIET);
  doc.text(
    `0° to 360°; edge ± ${fromMm(most, unit).toFixed(1)} ${system === "metric" ? "µm" : "tenths"}; solid counterclockwise, dashed clockwise`,
    MARGIN,
  );
  doc.fillColor("black");
}
