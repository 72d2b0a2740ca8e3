import { defaultAxis } from "@iron/core";
import { setUpBed, show } from "../../testing/place";
import { SayWhat } from "./say-what";

describe("free words", () => {
  beforeEach(() => setUpBed());
  /** What is offered for some words, the best first. */
  const offered = (words: string, letter = "X"): string[] => {
    const page = show(SayWhat, { axis: defaultAxis("vertical-centre", letter) });
    const part = page.component as unknown as { look(q: string): void; found(): { id: string }[] };
    part.look(words);
    return part.found().map((f) => f.id);
  };

  it("find the symptom that is meant, misspelt or half typed", () => {
    expect(offered("howls")[0]).toBe("howl");
    expect(offered("crunchy")).toContain("grit");
    expect(offered("backlsh")).toContain("lost-motion");
    expect(offered("growl")[0]).toBe("rumble");
    expect(offered("screen black")).toContain("display-dead");
    expect(offered("gritty nut")).toContain("nut-gritty");
  });

  it("offer nothing that the axis cannot have, and nothing for nonsense", () => {
    expect(offered("supply clicks")).not.toContain("click-descent");
    expect(offered("supply clicks", "Z")).toContain("click-descent");
    expect(offered("qqqqqq")).toEqual([]);
  });
});
