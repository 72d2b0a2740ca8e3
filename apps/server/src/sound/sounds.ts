import { areSisters, compareSounds, laidBy, planSeconds, type SoundComparison, type SoundPlan } from "@iron/core";
import { LARGEST_SOUND_PART, type SisterSound, type Sound, type SoundCreate } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { uniformNumber } from "../diagnosis/chance";
import type { DeviceHub } from "../devices/device-hub";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import { settleAxes } from "../machine/axis-summary";
import { instant, type Clock } from "../shop/clock";
import { fromJson, toJson } from "../store/columns";
import type { Db } from "../store/database";
import type { WorkPool } from "../threads/pool";
import { isCoupled, isHeard, lastWell, wellDrifts } from "./sounds-well";

/** Longest that is recorded, s. */
const MOST_S = 60;
/** So many recordings of sisters are offered, the newest. */
const MOST_SISTERS = 40;
/** How fast the stand-in gets up to its feed, mm/s². */
const ACCEL_MM_S2 = 1800;
/** Its shop is a quiet one. */
const ROOM_DB = -20;

/** Recordings of axes: sent in parts, kept as they were sent, worked out away from the thread that answers. */
export class Sounds {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly hub: DeviceHub;
      readonly clock: Clock;
      readonly pool: WorkPool;
    },
  ) {}

  async of(axisId: number): Promise<Sound[]> {
    await this.needs.machines.axis(axisId);
    return this.withDrifts(axisId, await this.rows((q) => q.where("sound.axis_id", "=", axisId)));
  }

  /** What was recorded of other axes of its kind, and was neither refused nor set aside. */
  async ofSisters(axisId: number): Promise<SisterSound[]> {
    const { config } = await this.needs.machines.axis(axisId);
    const others = await this.needs.db
      .selectFrom("axis")
      .innerJoin("machine", "machine.id", "axis.machine_id")
      .select(["axis.id", "axis.config", "machine.nickname"])
      .where("axis.id", "!=", axisId)
      .where("axis.retired_at", "is", null)
      .where("machine.retired_at", "is", null)
      .orderBy("axis.id")
      .execute();
    const sisters = others.filter((o) => areSisters(config, fromJson(o.config)));
    if (sisters.length === 0) return [];
    const ids = sisters.map((s) => s.id);
    const heard = await this.rows((q) =>
      q.where("sound.axis_id", "in", ids).where("result", "is not", null).where(isCoupled),
    );
    return heard
      .filter((s) => !s.aside)
      .slice(0, MOST_SISTERS)
      .map((sound) => {
        const whose = sisters.find((s) => s.id === sound.axisId);
        return { ...sound, machine: whose?.nickname ?? "", letter: whose ? fromJson(whose.config).letter : "" };
      });
  }

  async sound(id: number): Promise<Sound> {
    const found = await this.rows((q) => q.where("sound.id", "=", id));
    if (found.length === 0) throw notFound("recording", id);
    // While its parts come there is nothing to hold beside another.
    const [sound] = found[0].result ? await this.withDrifts(found[0].axisId, found) : found;
    return sound;
  }

  /** Begins to take a recording; the same key again is the one that was begun. */
  async begin(
    axisId: number,
    create: Omit<SoundCreate, "source"> & Pick<Sound, "source">,
    who: string,
  ): Promise<Sound> {
    const { config } = await this.needs.machines.axis(axisId);
    expectFits(create.plan, config);
    const { db, clock } = this.needs;
    const there = await db
      .selectFrom("sound")
      .select(["id", "axis_id"])
      .where("key", "=", create.key)
      .executeTakeFirst();
    if (there && there.axis_id !== axisId)
      throw conflict("This recording was sent before, for another axis. Nothing was kept here: record it anew.");
    if (there) return this.sound(there.id);
    const { id } = await db
      .insertInto("sound")
      .values({
        axis_id: axisId,
        key: create.key,
        source: create.source,
        plan: toJson(create.plan),
        place: create.place,
        own_gain: create.ownGain === null ? null : Number(create.ownGain),
        bytes: create.bytes,
        at: madeAt(create.at, clock.now()).toISOString(),
        by: who,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    return this.sound(id);
  }

  /** Keeps the part that begins at a byte: the next that is missing, or one that is there already. */
  async part(id: number, from: number, bytes: Buffer): Promise<Sound> {
    const sound = await this.sound(id);
    if (bytes.length === 0 || bytes.length > LARGEST_SOUND_PART)
      throw problem(422, {
        title: "Not valid",
        detail: `A part has from 1 to ${LARGEST_SOUND_PART} bytes: this one has ${bytes.length}.`,
      });
    if (from < sound.received) return sound;
    if (from > sound.received)
      throw conflict(`The part from byte ${sound.received} on comes first: this one begins at ${from}.`, sound);
    if (from + bytes.length > sound.bytes)
      throw problem(422, {
        title: "Not valid",
        detail: `The recording was announced with ${sound.bytes} bytes: this part goes to ${from + bytes.length}.`,
      });
    await this.needs.db
      .insertInto("sound_part")
      .values({ sound_id: id, from_byte: from, bytes })
      .onConflict((on) => on.doNothing())
      .execute();
    return this.sound(id);
  }

  /** Works out a recording whose parts are all there; again, it is what it was. */
  async finish(id: number): Promise<Sound> {
    const sound = await this.sound(id);
    if (sound.state !== "arriving") return sound;
    if (sound.received < sound.bytes)
      throw conflict(`${sound.bytes - sound.received} bytes of it are still to come.`, sound);
    const { db, machines, pool } = this.needs;
    const { config } = await machines.axis(sound.axisId);
    const worked = await pool.run("workSound", { bytes: await this.bytes(id), config, plan: sound.plan });
    await db.transaction().execute(async (trx) => {
      await trx
        .insertInto("sound_result")
        .values({
          sound_id: id,
          refused: Number(worked.refused),
          seconds: worked.seconds,
          result: worked.result ? toJson(worked.result) : null,
          why: worked.why,
        })
        .onConflict((on) => on.doNothing())
        .execute();
      await settleAxes(trx, [sound.axisId]);
    });
    return this.sound(id);
  }

  /** The stand-in runs its axis and records it. */
  async simulate(axisId: number, { plan, place }: Pick<Sound, "plan" | "place">, who: string): Promise<Sound> {
    const { config } = await this.needs.machines.axis(axisId);
    expectFits(plan, config);
    const device = await this.needs.hub.device(axisId);
    const seed = Math.floor(uniformNumber() * 2 ** 30);
    const bytes = await this.needs.pool.run("recordVirtual", {
      config,
      asked: {
        ...{ parts: device.model.parts ?? {}, run: { ...plan, accelMmS2: ACCEL_MM_S2 }, roomDb: ROOM_DB },
        ...{ machine: device.model.seed, seed, telephone: 1 },
      },
    });
    const begun = await this.begin(
      axisId,
      { key: randomUUID(), plan, place, source: "simulated", bytes: bytes.length, ownGain: false },
      who,
    );
    for (let from = 0; from < bytes.length; from += LARGEST_SOUND_PART)
      await this.part(begun.id, from, Buffer.from(bytes.slice(from, from + LARGEST_SOUND_PART)));
    return this.finish(begun.id);
  }

  async setAside(id: number, reason: string, who: string): Promise<Sound> {
    const sound = await this.sound(id);
    if (sound.aside) throw conflict("That recording is set aside already.", sound);
    const row = { sound_id: id, reason, at: instant(this.needs.clock), by: who };
    await this.needs.db.transaction().execute(async (trx) => {
      await trx.insertInto("sound_aside").values(row).execute();
      await settleAxes(trx, [sound.axisId]);
    });
    return this.sound(id);
  }

  /** Keeps a recording as how its axis sounds when it is well, or no longer; said again, nothing changes. */
  async keepWell(id: number, well: boolean, who: string): Promise<Sound> {
    const sound = await this.sound(id);
    if (sound.well === well) return sound;
    if (well) expectWell(sound);
    const row = { sound_id: id, well: Number(well), at: instant(this.needs.clock), by: who };
    await this.needs.db.transaction().execute(async (trx) => {
      await trx.insertInto("sound_well").values(row).execute();
      await settleAxes(trx, [sound.axisId]);
    });
    return this.sound(id);
  }

  async beside(id: number, otherId: number): Promise<SoundComparison> {
    const [one, other] = [await this.sound(id), await this.sound(otherId)];
    const side = ({ id: which, plan, ownGain, result }: Sound) => {
      if (!result) throw conflict(`Nothing was worked out of recording ${which}: it cannot be compared.`);
      // Where nobody knows whether the microphone turned itself up, it may have.
      return { feedMmMin: plan.feedMmMin, ownGain: ownGain ?? true, bands: result.bands, ways: result.ways };
    };
    const laid = one.axisId === other.axisId ? laidBy(one.place, other.place) : "elsewhere";
    return compareSounds(side(one), side(other), laid);
  }

  /** The file as it was sent. */
  async bytes(id: number): Promise<Buffer> {
    const parts = await this.needs.db
      .selectFrom("sound_part")
      .select("bytes")
      .where("sound_id", "=", id)
      .orderBy("from_byte")
      .execute();
    return Buffer.concat(parts.map((p) => p.bytes));
  }

  private async withDrifts(axisId: number, sounds: Sound[]): Promise<Sound[]> {
    const drifts = await wellDrifts(this.needs.db, axisId);
    return sounds.map((s) => ({ ...s, drift: drifts.get(s.id) ?? null }));
  }

  private async rows(narrow: (query: ReturnType<typeof soundRows>) => ReturnType<typeof soundRows>): Promise<Sound[]> {
    const rows = await narrow(soundRows(this.needs.db)).orderBy("sound.id", "desc").execute();
    return rows.map((row): Sound => ({
      id: row.id,
      axisId: row.axis_id,
      state: row.refused === null ? "arriving" : row.refused ? "refused" : "kept",
      source: row.source,
      plan: fromJson(row.plan),
      place: row.place,
      ownGain: row.own_gain === null ? null : row.own_gain === 1,
      bytes: row.bytes,
      received: row.received ?? 0,
      seconds: row.seconds,
      result: row.result ? fromJson(row.result) : null,
      why: row.why ?? "",
      aside: row.reason ?? "",
      well: row.well === 1,
      drift: null,
      at: row.at,
      by: row.by,
    }));
  }
}

/** Recordings with how much of each is there, what was worked out, and why it is set aside. */
function soundRows(db: Db) {
  return db
    .selectFrom("sound")
    .leftJoin("sound_result", "sound_result.sound_id", "sound.id")
    .leftJoin("sound_aside", "sound_aside.sound_id", "sound.id")
    .selectAll("sound")
    .select(["refused", "seconds", "result", "why", "reason"])
    .select((eb) =>
      eb
        .selectFrom("sound_part")
        .select((p) => p.fn.sum<number>(p.fn<number>("length", ["sound_part.bytes"])).as("there"))
        .whereRef("sound_part.sound_id", "=", "sound.id")
        .as("received"),
    )
    .select(lastWell.as("well"));
}

/** What nothing can be said of, or what counts no more, is not how an axis sounds when it is well. */
function expectWell({ aside, result, ownGain, plan }: Sound): void {
  if (plan.motorAlone) throw conflict("The motor ran alone in it: that is not how the axis sounds.");
  if (aside) throw conflict(`That recording is set aside: ${aside}.`);
  if (!result || !isHeard(result.troubles))
    throw conflict(
      "Nothing can be said of that recording: later ones cannot be held beside it. Record the axis again.",
    );
  if (ownGain !== false)
    throw conflict(
      "The microphone turned itself up or down, or nobody knows: how loud the axis was is not in it. Record it with a microphone that does not.",
    );
}

/** So long may a recording wait to be sent, ms: what says to be older has a clock that stands wrong. */
const MOST_WAIT_MS = 31 * 86_400_000;

/** When a recording was made: not in the future, nor long ago, whatever a tablet’s clock says. */
function madeAt(said: string | undefined, now: Date): Date {
  const ago = said === undefined ? 0 : now.getTime() - Date.parse(said);
  return new Date(now.getTime() - (ago > 0 && ago <= MOST_WAIT_MS ? ago : 0));
}

/** A run that the axis cannot make, or that takes too long to record, is not begun. */
function expectFits(plan: SoundPlan, config: { readonly travelMm: number; readonly rapidMmMin: number }): void {
  const no = (detail: string): never => {
    throw problem(422, { title: "Not valid", detail });
  };
  if (plan.feedMmMin > config.rapidMmMin)
    no(`Feed is ${plan.feedMmMin} mm/min: it must be at most the rapid feed of ${config.rapidMmMin} mm/min.`);
  if (plan.strokeMm > config.travelMm)
    no(`The way is ${plan.strokeMm} mm: it must be at most the travel of ${config.travelMm} mm.`);
  const seconds = planSeconds(plan);
  if (seconds > MOST_S)
    no(`The run takes ${Math.round(seconds)} s: at most ${MOST_S} s are recorded. Take fewer ways, or a shorter one.`);
}
