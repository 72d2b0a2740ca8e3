import type { Axis, Corrections } from "@iron/contract";
import { typedValues } from "@iron/core";
import { AS_ROWAN, answerOf, expect, test } from "./shop";

test.describe("a compensation table", () => {
  // What was typed wrongly is refused by the server.
  test.use({ speed: "4000", expectedNoise: [[/422/], { scope: "test" }] as never });

  test("is made of a scale that is long, held against what was typed, told to the control, and proven by reading again", async ({
    page,
  }) => {
    await page.goto("/machines/6/axes/15/prove");
    await page.getByRole("link", { name: "Tables of this axis" }).click();
    await expect(page.getByText("No table yet.")).toBeVisible();
    await page.getByRole("link", { name: "Make a table" }).click();
    const says = page.getByRole("region", { name: "What comes of it" });
    await expect(says).toContainText(/16\d\.\d µm from end to end become about \d\.\d µm\./);
    // What cannot be is said with its bound, and what was typed stays.
    await page.getByLabel("Number of points").fill("60");
    await page.getByLabel("Number of points").blur();
    await expect(page.getByText("last point is 5900: it must be at most 2100 mm")).toBeVisible();
    await expect(page.getByLabel("Number of points")).toHaveValue("60");
    await page.getByLabel("Number of points").fill("21");
    await page.getByLabel("Note").fill("scales set alike");
    await page.getByRole("button", { name: "Keep this version" }).click();
    await expect(page.getByRole("heading", { name: /^Compensation table, version 1/ })).toBeVisible();
    await expect(page.getByText("It was never entered.")).toBeVisible();
    const { versions } = await answerOf<Corrections>(page, "/api/axes/15/corrections");
    const numbers = [...typedValues(versions[0].table, "+")];
    // Two numbers changed places while they were typed.
    const slipped = [...numbers];
    [slipped[7], slipped[8]] = [slipped[8], slipped[7]];
    await page.getByLabel("Read back").fill(slipped.join("\n"));
    await page.getByRole("button", { name: "Hold it against the sheet" }).click();
    await expect(page.getByText("Points 8 and 9 have changed places.")).toBeVisible();
    await page.getByRole("button", { name: "Tell the simulated control" }).click();
    await expect(page.getByText(/^In the control since/)).toBeVisible();
    await expect(page.getByText("It has not been read since.")).toBeVisible();
    await page.getByRole("link", { name: "Read the travel again" }).click();
    await page.getByRole("button", { name: /^Begin/ }).click();
    await page.getByRole("button", { name: "Test program…" }).click();
    await page.getByRole("button", { name: "Run it on the simulated machine" }).click();
    await expect(page.getByText(/^Done: \d+ of \d+ readings are kept\.$/)).toBeVisible();
    await page.goto("/machines/6/axes/15/table/1");
    await expect(
      page.getByText(/It stands in the control as it was made: \d\.\d µm are left on average\./),
    ).toBeVisible();
    await page.goto("/machines/6/axes/15/table");
    await page.getByRole("button", { name: "It has been taken out of the control" }).click();
    await expect(page.getByText("was in the control")).toBeVisible();
  });

  test("is refused while the screw is worn in its middle; where it works says why", async ({ page }) => {
    // A shop that works closer: 6 µm may be left.
    await page.goto("/floor");
    const axis = await answerOf<Axis>(page, "/api/axes/4");
    const limits = { leaveMm: 0.006, repairMm: 0.03, setBy: "Ama", why: "valve seats" };
    const data = { config: { ...axis.config, limits }, version: axis.version };
    expect((await page.request.put("/api/axes/4", { headers: AS_ROWAN, data })).status()).toBe(200);
    await page.goto("/machines/2/axes/4/measure/new/travel-profile");
    await page.getByRole("button", { name: /^Begin/ }).click();
    await page.getByRole("button", { name: "Test program…" }).click();
    await page.getByRole("button", { name: "Run it on the simulated machine" }).click();
    await expect(page.getByText(/^Done: \d+ of \d+ readings are kept\.$/)).toBeVisible();
    await page.goto("/machines/2/axes/4/table/new");
    const says = page.getByRole("region", { name: "What comes of it" });
    await expect(says.getByRole("alert")).toContainText("is wear at a place");
    await expect(page.getByRole("button", { name: "Keep this version" })).toBeDisabled();
    await expect(says.getByRole("link", { name: "Find where it is lost" })).toHaveAttribute("href", /axes\/4\/locate$/);
    await page.goto("/machines/2/axes/4/table");
    const body = `G21 G90\nG0 X0 Y0\nG1 X70 F900\n${"G1 X0\nG1 X70\n".repeat(30)}`;
    await page
      .getByLabel("Part programs, G-code")
      .setInputFiles({ name: "valve.nc", mimeType: "text/plain", buffer: Buffer.from(body) });
    await expect(page.getByText(/% of its way lies between 2\d\d mm and 3\d\d mm/)).toBeVisible();
    await expect(
      page.getByText(/It loses .* more there than elsewhere: the screw has begun to wear where it works\./),
    ).toBeVisible();
    await page.getByLabel("Its zero stands at X").fill("900");
    await page.getByLabel("Its zero stands at X").blur();
    await expect(page.getByText(/100 % of a program’s way lies beyond the travel of 660 mm/)).toBeVisible();
    await page
      .getByLabel("Part programs, G-code")
      .setInputFiles({ name: "none.nc", mimeType: "text/plain", buffer: Buffer.from("(nothing)") });
    await expect(page.getByText(/none\.nc: number of moves of X is 0/)).toBeVisible();
  });
});
