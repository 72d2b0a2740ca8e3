import { lengthsIn } from "./prose";

describe("lengths in instructions", () => {
  it("stay in metric and are inches in inch mode", () => {
    const text = "A chip of 10 µm is 10 µm of run-out; keep 0.02 mm over 300 mm.";
    expect(lengthsIn(text, "metric")).toBe(text);
    // 25.4 mm to the inch (international yard and pound agreement, 1959).
    expect(lengthsIn(text, "inch")).toBe("A chip of 0.0004 in is 0.0004 in of run-out; keep 0.0008 in over 11.8 in.");
    expect(lengthsIn("5 µm of clearance, 50.8 mm long", "inch")).toBe("0.0002 in of clearance, 2.00 in long");
  });

  it("takes the trade’s own inches where the text gives them, and leaves threads alone", () => {
    expect(lengthsIn("0.050 mm over 300 mm or less (0.001 in over 6 in).", "inch")).toBe("0.001 in over 6 in or less.");
    expect(lengthsIn("M6 screws, 10 N·m, 30 mm²", "inch")).toBe("M6 screws, 10 N·m, 30 mm²");
  });
});
