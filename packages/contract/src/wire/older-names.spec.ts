import fc from "fast-check";
import { byTodaysNames, parseByTodaysNames } from "./older-names";

describe.each([
  ["by the reviver", (text: string): unknown => JSON.parse(text, byTodaysNames)],
  ["by the reading of whole records", parseByTodaysNames],
])("what was written under an older name, %s", (_, read) => {
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

describe("the reading of whole records", () => {
  it("comes to what the reviver comes to, whatever is in them and however it is spaced", () => {
    const name = fc.constantFrom("lostMm", "school", "words", "finds", "a", "label", '"lostMm":');
    const { tree } = fc.letrec((tie) => ({
      tree: fc.oneof({ maxDepth: 4 }, fc.integer(), name, fc.array(tie("tree")), fc.dictionary(name, tie("tree"))),
    }));
    fc.assert(
      fc.property(tree, fc.constantFrom(0, 2), (value, indent) => {
        const text = JSON.stringify(value, null, indent);
        expect(parseByTodaysNames(text)).toEqual(JSON.parse(text, byTodaysNames));
      }),
    );
  });
});
