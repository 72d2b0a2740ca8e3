import { readFileSync } from "node:fs";
import { choose, begin, expect, test } from "./shop";

const DUNLIN_Y = "/machines/3/axes/8";

test("readings typed like a digital indicator sends them, with Enter", async ({ page }) => {
  await begin(page, DUNLIN_Y, { kind: "two-sided", fill: { Runs: "2" } });
  await page.getByRole("button", { name: "Type readings" }).click();
  await page.getByRole("button", { name: "It stands at zero" }).click();
  const field = page.getByLabel("Reading, mm");
  await field.fill("abc");
  await field.press("Enter");
  await expect(page.getByRole("alert")).toHaveText("“abc” is not a number. Write it like −0.0125 or 0,0125.");
  await expect(field).toHaveValue("abc");
  await field.fill("47");
  await field.press("Enter");
  await expect(page.getByRole("alert")).toContainText("47 mm cannot be: this indicator reaches over 10 mm");
  for (const value of ["0.000", "0,041", "0.001", "0.043"]) {
    await field.fill(value);
    await field.press("Enter");
    await expect(field.or(page.getByText("Done: 4 of 4"))).toBeVisible();
    if (value !== "0.043") await expect(field).toHaveValue("");
  }
  await expect(page.getByText("Done: 4 of 4 readings are kept.")).toBeVisible();
  await expect(page.getByText(/4[12](\.\d+)? µm lost at reversal/)).toBeVisible();
});

test("a dial is read in divisions and fractions, and a passed target is spoilt", async ({ page }) => {
  await begin(page, DUNLIN_Y, { kind: "two-sided", fill: { Runs: "1" } });
  await page.getByRole("button", { name: "Read a dial" }).click();
  await page.getByRole("button", { name: "It stands at zero" }).click();
  await page.getByLabel(/Whole divisions/).fill("1");
  await page.getByLabel("I passed the target").check();
  await page.getByRole("button", { name: "Take reading" }).click();
  await expect(page.getByText(/: spoilt\. The target was passed/)).toBeVisible();
  await page.getByLabel(/Whole divisions/).fill("0");
  await page.getByRole("button", { name: "Take reading" }).click();
  await expect(page.getByText("1 of 2 readings")).toBeVisible();
  await page.getByLabel(/Whole divisions/).fill("40");
  await choose(page.getByLabel("and", { exact: true }), "a bit over half");
  await page.getByRole("button", { name: "Take reading" }).click();
  await expect(page.getByText(/40\.6\d* µm lost at reversal/)).toBeVisible();
});

test("a wrong file is refused row by row; a right one is shown, kept once and exported again", async ({ page }) => {
  await page.goto(`${DUNLIN_Y}/import`);
  const header = "place_mm;approach;run;reading_um\n";
  const file = (text: string) => ({
    name: "log.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(text),
  });
  await page.getByLabel("File").setInputFiles(file(`${header}100,0;+;1;0,5\n100,0;hm;1;21\n`));
  await expect(page.getByRole("alert")).toContainText("Line 3, approach: “hm” is no approach");
  await expect(page.getByRole("button", { name: "Keep these readings" })).toBeDisabled();
  const good = `${header}100,0;+;1;0,5\n100,0;-;1;21\n900;+;1;0\n900;-;1;30,5\n`;
  await page.getByLabel("File").setInputFiles(file(good));
  await expect(page.getByText("Travel profile: 4 readings at 2 places, 1 run.")).toBeVisible();
  await page.getByRole("button", { name: "Keep these readings" }).click();
  await expect(page.getByText("Done: 4 of 4 readings are kept.")).toBeVisible();
  await expect(page.getByText(/31 ?µm lost|30\.5 µm lost/)).toBeVisible();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Readings as CSV" }).click();
  const text = readFileSync(await (await download).path(), "utf8");
  expect(text).toContain("900.0000,-,1,0.030500");
  await page.goto(`${DUNLIN_Y}/import`);
  await page.getByLabel("File").setInputFiles(file(good));
  await page.getByRole("button", { name: "Keep these readings" }).click();
  await expect(page.getByText("already here: nothing was kept twice")).toBeVisible();
});

test("the test program is previewed, refused with the bound, and downloaded", async ({ page }) => {
  await begin(page, DUNLIN_Y, { kind: "two-sided", fill: { Runs: "2" } });
  await page.getByRole("button", { name: "Test program…" }).click();
  const program = page.getByLabel("Program text");
  await expect(program).toContainText("G1 Y750.000 F1000");
  await page.getByLabel("Feed, mm/min").fill("99000");
  await expect(page.getByRole("alert")).toHaveText(
    "Feed is 99000: it must be from 1 up to the rapid feed of 30000 mm/min.",
  );
  await page.getByLabel("Feed, mm/min").fill("800");
  await choose(page.getByLabel("Units in the program"), "inches, G20");
  await expect(program).toContainText("G20 (inches)");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Download the program" }).click();
  expect(readFileSync(await (await download).path(), "utf8")).toContain("G1 Y29.5276 F31.496");
});
