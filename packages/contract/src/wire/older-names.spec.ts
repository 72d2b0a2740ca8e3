import { byTodaysNames } from "./older-names";

const read = (text: string): unknown => JSON.parse(text, byTodaysNames);

describe("what was written under an older name", () => {
  it("is taken by its name of today, however deep it lies", () => {
    expect(read('{"kind":"sign","figure":{"lostMm":0.031,"expandedMm":null,"runId":null}}')).toEqual({
      kind: "sign",
      figure: { reversalValueMm: 0.031, expandedMm: null, runId: null },
    });
    expect(read('{"school":"calendar","holidays":[{"date":"2026-12-24","words":"inventory"}]}')).toEqual({
      method: "calendar",
      holidays: [{ date: "2026-12-24", words: "inventory" }],
    });
  });

  it("in a list of finds alone: what a person wrote stays their words", () => {
    expect(read('{"words":"noisy","finds":[{"id":"dry","words":"dry"},{"id":"tight","label":"tight"}]}')).toEqual({
      words: "noisy",
      finds: [
        { id: "dry", label: "dry" },
        { id: "tight", label: "tight" },
      ],
    });
  });

  it.each(['"lostMm"', "[1,2]", "null", '{"__proto__":1,"a":2}', '{"finds":7}', '{"constructor":[]}'])(
    "%s stays what it is",
    (text) => {
      expect(read(text)).toEqual(JSON.parse(text));
    },
  );
});
