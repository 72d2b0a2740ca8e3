import {
  figureAfter,
  figureBefore,
  formatQuantity,
  formatWithU,
  jobProgress,
  judgeCircleRetest,
  judgeRetest,
  recordOf,
  stepIn,
  type PlannedStep,
  type RecordedStep,
  type UnitSystem,
} from "@iron/core";
import type { Job, JobEventRecord } from "@iron/contract";
import type PDFDocument from "pdfkit";

const FONT = "@fontsource/b612/files/b612-latin-";
const MARGIN = 48;
const QUIET = "#555555";

type Doc = InstanceType<typeof PDFDocument>;

/** A moment as it is written on paper, in the shop’s zone. */
const moment = (at: string): string =>
  new Intl.DateTimeFormat("en-GB", {
    dateStyle: "medium",
    timeStyle: "short",
  }).format(new Date(at));
/** A day of the shop’s calendar, as in “3 Dec 2026”. */
const dayText = (day: string): string =>
  new Intl.DateTimeFormat("en-GB", { dateStyle: "medium" }).format(new Date(`${day}T12:00`));

/**
 * The job as a paper file for a customer or an auditor: who, when, what was found, what was read with
 * its U, before and after, and how the axis stood after every step. What is not signed yet stands there
 * as not signed.
 */
export async function jobPdf(job: Job, system: UnitSystem): Promise<Buffer> {
  // Loaded for the first paper: it takes a fifth of a server’s start, and most servers stop without one.
  const pdfkit = await import("pdfkit");
  const doc = new pdfkit.default({
    size: "A4",
    margin: MARGIN,
    bufferPages: true,
    info: { Title: `Job ${job.id}: ${job.title}`, Author: job.by },
  });
  const chunks: Buffer[] = [];
  doc.registerFont("plain", require.resolve(`${FONT}400-normal.woff`));
  doc.registerFont("bold", require.resolve(`${FONT}700-normal.woff`));
  writeJob(doc, job, system);
  return new Promise((resolve, reject) => {
    doc.on("data", (chunk: Buffer) => chunks.push(chunk));
    doc.on("end", () => resolve(Buffer.concat(chunks)));
    doc.on("error", reject);
    doc.end();
  });
}

function writeJob(doc: Doc, job: Job, system: UnitSystem): void {
  const progress = jobProgress(job.plan, job.events);
  doc.font("bold").fontSize(16).text(`Job ${job.id}: ${job.title}`);
  doc
    .font("plain")
    .fontSize(10)
    .text(`${job.nickname}, bay ${job.bay}. Opened ${moment(job.openedAt)} by ${job.by}.`);
  doc.text(
    job.finishedAt
      ? `Signed off ${moment(job.finishedAt)}. First check on ${job.checkOn ? dayText(job.checkOn) : "a day a week on"}.`
      : "Not signed off yet.",
  );
  heading(doc, "Before and after");
  for (const axis of job.axes) line(doc, `${axis.letter}: ${compared(job, axis, system)}`);
  heading(doc, "What was done");
  const signs = new Map(job.events.flatMap((e) => (e.kind === "sign" ? [[e.step, e] as const] : [])));
  const record = recordOf(progress);
  record.forEach((r, i) => step(doc, r, { number: i + 1, event: signs.get(r.signed.step), system }));
  const left = progress.plan.steps.filter((s) => !progress.done.has(s.id));
  if (left.length > 0 && !progress.finished) {
    heading(doc, "Not signed yet");
    for (const s of left) line(doc, titleOf(stepIn(s, system)));
  }
  if (progress.notes.length > 0) {
    heading(doc, "Notes");
    for (const note of progress.notes) line(doc, note.words);
  }
  doc.moveDown();
  doc
    .fillColor(QUIET)
    .fontSize(8)
    .text("The machine’s manual and local codes come before this sheet. ± is the expanded uncertainty, about 95 %.")
    .fillColor("black");
  numberPages(doc, job);
}

function heading(doc: Doc, text: string): void {
  doc.moveDown(0.8).font("bold").fontSize(12).text(text).moveDown(0.2);
  doc.font("plain").fontSize(9);
}

function line(doc: Doc, text: string): void {
  doc.font("plain").fontSize(9).fillColor("black").text(text);
}

const titleOf = (s: PlannedStep): string => (s.axis ? `${s.axis} · ${s.title}` : s.title);

/** What was measured before and after, and what the retest says. */
function compared(job: Job, axis: Job["axes"][number], system: UnitSystem): string {
  const signed = job.events.filter((e) => e.kind === "sign");
  const before = figureBefore(signed, axis.letter, axis.before);
  const after = figureAfter(signed, axis.letter);
  if (after) return judgeRetest(before, after, { limits: axis, system }).message;
  return before
    ? `${formatWithU(before.reversalValueMm, before.expandedMm, { system })} before, not measured after.`
    : "no loss was measured.";
}

type Signed = Extract<JobEventRecord, { kind: "sign" }>;

function step(
  doc: Doc,
  { step: own, signed }: RecordedStep,
  {
    number,
    event,
    system,
  }: { readonly number: number; readonly event: Signed | undefined; readonly system: UnitSystem },
): void {
  const s = stepIn(own, system);
  if (doc.y > doc.page.height - MARGIN - 70) doc.addPage();
  doc
    .moveDown(0.3)
    .font("bold")
    .fontSize(9)
    .fillColor("black")
    .text(`${number}. ${titleOf(s)}`);
  const found = s.finds.find((f) => f.id === signed.found);
  const said = [
    found ? `Found: ${found.label}.` : "",
    s.reading && signed.reading !== null
      ? `${s.reading.label}: ${formatQuantity(s.reading.quantity, signed.reading, system)}.`
      : "",
    signed.figure ? `Loss: ${formatWithU(signed.figure.reversalValueMm, signed.figure.expandedMm, { system })}.` : "",
    signed.circle ? judgeCircleRetest(signed.circle, s.axis ?? "", system).message : "",
    signed.kept ? `Went back ${signed.kept}${signed.change ? `: ${signed.change}` : ""}.` : "",
    ...s.parts.map((p) => `Put in: ${p.count} ${p.name}.`),
    ...s.torques,
    signed.reason ? `Reason: ${signed.reason}.` : "",
    s.hold && signed.holdBy ? `“${s.hold}” ${signed.holdBy}.` : "",
    signed.words,
  ].filter(Boolean);
  if (said.length > 0) line(doc, said.join(" "));
  doc
    .font("plain")
    .fontSize(8)
    .fillColor(QUIET)
    .text(
      [s.state, event ? `signed ${moment(event.at)}, ${event.by}` : "kept, not sent yet"].filter(Boolean).join(" · "),
    )
    .fillColor("black");
}

function numberPages(doc: Doc, job: Job): void {
  const { start, count } = doc.bufferedPageRange();
  for (let i = 0; i < count; i += 1) {
    doc.switchToPage(start + i);
    // Below the margin: it must not open a page of its own.
    doc.page.margins.bottom = 0;
    doc
      .font("plain")
      .fontSize(8)
      .fillColor(QUIET)
      .text(`Job ${job.id}, page ${i + 1} of ${count}`, MARGIN, doc.page.height - 32, { lineBreak: false });
    doc.page.margins.bottom = MARGIN;
  }
}
