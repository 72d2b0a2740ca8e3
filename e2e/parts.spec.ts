import type { LubricationPointRecord, MachineWithAxes } from "@iron/contract";
import { AS_ROWAN, expect, test } from "./shop";

test("a brush worn to its mark becomes an order, comes, and is on the shelf", async ({ page }) => {
  await page.goto("/floor");
  const sent = async <T>(path: string, data: object): Promise<T> => {
    const answer = await page.request.post(path, { data, headers: AS_ROWAN });
    expect(answer.ok(), await answer.text()).toBe(true);
    return (await answer.json()) as T;
  };
  const machine = await sent<MachineWithAxes>("/api/machines", {
    nickname: "Siskin",
    bay: "31",
    kind: "router",
    hoursPerWeek: 30,
    note: "",
    letters: ["X", "Y", "Z"],
  });
  const points = await sent<LubricationPointRecord[]>(`/api/machines/${machine.id}/lube-points/usual`, {
    setUp: { central: "none", carriages: "nipple", nuts: "nipple", board: true },
    factors: [],
  });
  const brushes = points.find((p) => p.place === "spindle brushes");
  await page.goto(`/points/${brushes?.id}`);
  const length = page.getByRole("group", { name: "brush length" });
  await page.getByLabel("Read, mm").fill("4.5");
  await length.getByRole("radio", { name: "Act: worn to the mark" }).check();
  await page.getByRole("group", { name: "commutator" }).getByRole("radio", { name: "Fine" }).check();
  await page.getByRole("button", { name: "Looked at" }).click();
  await expect(page.getByText("brush length 4.5 mm, worn to the mark")).toBeVisible();
  await page.getByRole("button", { name: "Order a part for it" }).click();
  const form = page.getByRole("form", { name: "Order a part" });
  await expect(form.getByLabel("Part")).toHaveValue("spindle brushes");
  await form.getByLabel("How many").fill("2");
  await form.getByRole("button", { name: "Put it on the list" }).click();
  await page.getByRole("link", { name: "what to order" }).click();
  const order = page.getByRole("listitem").filter({ hasText: "2 × spindle brushes" });
  await expect(order).toContainText("for Siskin: brush length 4.5 mm, worn to the mark");
  await expect(order).toContainText("To be ordered since");
  await order.getByRole("button", { name: "Ordered: spindle brushes" }).click();
  await expect(order).toContainText("Ordered ");
  await order.getByRole("button", { name: "Has come: spindle brushes" }).click();
  await expect(order).toContainText("Came ");
  const row = page.getByRole("row", { name: /^spindle brushes/ });
  await row.getByLabel("Number of spindle brushes").fill("2");
  await row.getByRole("button", { name: "Taken out: spindle brushes" }).click();
  await expect(row).toContainText("no axis here0");
});
