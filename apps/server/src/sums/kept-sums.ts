import { type Kysely, type Migration } from "kysely";
import { change } from "../store/in-dialect";

/**
 * What is worked out once and kept: the floor’s line of each axis, and a stamp on points and machines
 * that rises with whatever their sums are made from. Triggers do it, in the transaction of the change
 * itself: no writer can forget it.
 */
export const keptSums: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table axis_summary (
        axis_id integer primary key references axis(id),
        summary text not null check (json_valid(summary))) strict`,
      ...(
        [
          ["axis", "update of config, retired_at", "new.id"],
          ["run", "insert", "new.axis_id"],
          ["run", "update of state, lost_mm, expanded_mm", "new.axis_id"],
          ["typed_loss", "insert", "new.axis_id"],
          ["typed_loss", "delete", "old.axis_id"],
          ["axis_event", "insert", "new.axis_id"],
        ] as const
      ).map(
        ([table, when, axis], i) =>
          `create trigger ${table}_out_of_summary_${i} after ${when} on ${table}
           begin delete from axis_summary where axis_id = ${axis}; end`,
      ),
      `alter table lube_point add column changed integer not null default 1`,
      ...["lube_visit", "lube_hold", "lube_photo"].map(
        (table) =>
          `create trigger ${table}_changes_point after insert on ${table}
           begin update lube_point set changed = changed + 1 where id = new.point_id; end`,
      ),
      `create trigger lube_point_changed after update of point, since, retired_at, version, machine_id on lube_point
       begin update lube_point set changed = changed + 1 where id = new.id; end`,
      `alter table machine add column metered integer not null default 1`,
      `create trigger meter_reading_meters after insert on meter_reading
       begin update machine set metered = metered + 1 where id = new.machine_id; end`,
      `create trigger meter_back_meters after insert on meter_back
       begin update machine set metered = metered + 1
         where id = (select machine_id from meter_reading where id = new.reading_id); end`,
    ];
    await change(db, statements);
  },
};
