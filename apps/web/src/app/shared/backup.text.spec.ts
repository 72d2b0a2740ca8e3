import { backupAlarm, backupText } from "./backup.text";

describe("how backups are told", () => {
  const now = new Date("2026-03-10T12:00:00Z");
  const state = (lastAt: string | null, error = "") => ({
    lastAt,
    count: 3,
    error,
  });

  it("the floor is silent while one is fresh, and says when the last good one is older than two days", () => {
    expect(backupAlarm(null, now)).toBe("");
    expect(backupAlarm(state("2026-03-08T12:00:01Z"), now)).toBe("");
    expect(backupAlarm(state("2026-03-08T11:59:59Z"), now)).toContain("more than two days");
    expect(backupAlarm(state(null), now)).toBe("");
    expect(backupAlarm(state(null, "no room left."), now)).toMatch(/No backup has been made yet.*no room left/);
  });

  it("the shop says when, how many, and why not", () => {
    expect(backupText(state("2026-03-09T12:00:00Z"), now)).toMatch(/^Last good backup .*; 3 kept\.$/);
    expect(backupText(state("2026-03-09T12:00:00Z", "disk fails."), now)).toContain("The last try failed: disk fails.");
  });
});
