import { minutesText, money } from "./amount.text";

describe("amounts", () => {
  it("say durations and money in the shop’s own", () => {
    expect([12, 60, 75, 240].map(minutesText)).toEqual(["12 min", "1 h", "1 h 15 min", "4 h"]);
    expect(money(690.4, "GBP")).toBe("£690");
  });
});
