import type { Handlers } from "../http/mount";
import type { Lubrication } from "../lubrication/lubrication";
import type { BackupKeeper } from "../store/backups";
import type { Db } from "../store/database";
import { UntilWritten } from "../store/until-written";
import { readFloor } from "./floor";
import type { ShopSettings } from "./shop";

interface ShopServices {
  readonly db: Db;
  readonly shop: ShopSettings;
  readonly lubrication: Lubrication;
  readonly version: string;
  readonly backups: BackupKeeper | null;
}

export function shopHandlersFor(
  s: ShopServices,
): Pick<Handlers, "health" | "shop" | "updateShop" | "floor" | "backups"> {
  const floor = new UntilWritten(s.db, async () => readFloor(s.db, new Date(), await s.lubrication.notes()));
  return {
    health: async () => {
      await s.db.selectFrom("setting").select("key").limit(1).execute();
      return { status: "ok", version: s.version };
    },
    shop: () => s.shop.get(),
    updateShop: ({ body }) => s.shop.update(body),
    floor: async () => ({
      ...(await floor.get()),
      backup: s.backups?.state() ?? null,
    }),
    backups: async () => s.backups?.state() ?? null,
  };
}
