import { kitList, type JobPlan } from "@iron/core";

export interface KitItem {
  /** By this it is ticked. */
  readonly name: string;
  readonly text: string;
  /** What does instead, or for which axes it is. */
  readonly note: string;
}

export interface KitGroup {
  readonly title: string;
  readonly items: readonly KitItem[];
}

/** The kit in the order in which it is got together; empty groups are left out. */
export function kitGroups(plan: Pick<JobPlan, "steps">): readonly KitGroup[] {
  const kit = kitList(plan);
  const part = (p: (typeof kit.parts)[number]): KitItem => ({
    name: p.name,
    text: `${p.count} × ${p.name}`,
    note: p.axes,
  });
  const plain = (name: string): KitItem => ({ name, text: name, note: "" });
  const groups: readonly KitGroup[] = [
    {
      title: "Parts to order",
      items: kit.parts.filter((p) => p.order).map(part),
    },
    {
      title: "Parts at hand",
      items: kit.parts.filter((p) => !p.order).map(part),
    },
    { title: "Tools", items: kit.tools.map(plain) },
    {
      title: "Special tools, or what does instead",
      items: kit.special.map((s) => ({
        name: s.tool,
        text: s.tool,
        note: s.standIn,
      })),
    },
    { title: "Consumables", items: kit.consumables.map(plain) },
    { title: "To photograph", items: kit.photos.map(plain) },
  ];
  return groups.filter((g) => g.items.length > 0);
}
