import type { SoundHeard } from "@iron/core";
import type { NotNull } from "kysely";
import { fromJson } from "../store/columns";
import type { Db } from "../store/database";
import { isCoupled, isHeard } from "./sounds-well";

export interface Heard extends SoundHeard {
  readonly id: number;
  readonly at: string;
}

/** What the latest recording of an axis was like that counts: worked out, not set aside, and of which something can be said. */
export async function heardOf(db: Db, axisId: number, since: string | null): Promise<Heard | null> {
  const rows = await db
    .selectFrom("sound")
    .innerJoin("sound_result", "sound_result.sound_id", "sound.id")
    .leftJoin("sound_aside", "sound_aside.sound_id", "sound.id")
    .select(["sound.id", "sound.at", "sound_result.result"])
    .$narrowType<{ result: NotNull }>()
    .where("sound.axis_id", "=", axisId)
    .where("sound.at", ">", since ?? "")
    .where("sound_aside.sound_id", "is", null)
    .where("sound_result.result", "is not", null)
    .where(isCoupled)
    .orderBy("sound.at", "desc")
    .orderBy("sound.id", "desc")
    .execute();
  for (const { id, at, result } of rows) {
    const { chances, troubles } = fromJson(result);
    if (isHeard(troubles)) return { id, at, chances, ref: `sound ${id}` };
  }
  return null;
}
