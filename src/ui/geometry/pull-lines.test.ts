import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote, partOf } from "@/core/score";
import { contextOf, transformOf } from "@/core/transforms";
import { layOut } from "./layout";
import { pullLines } from "./pull-lines";

const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };

function setUp() {
  let project = createProject({ bars: 2 });
  const hit = (start: number, pitch: number) => makeNote({ id: `${pitch}-${start}`, start, pitch });
  project = edits.setNotes(project, DRUMS, [hit(70, 36), hit(1000, 42), hit(1100, 42)]);
  project = edits.setNotes(project, BASS, [hit(250, 45), hit(3000, 45)]);
  const open = new Set(["drums", "bass"]);
  return { project, layout: layOut(project, "a", { open }) };
}
const ask = (params: object, places = [DRUMS], lane?: number) => ({
  transform: "quantize",
  params: { ...transformOf("quantize").defaults, ...params },
  places,
  lane,
});

describe("the lines that notes will be pulled to", () => {
  it("are those where they are, for each lane of a kit by its own grid and for a line as a whole", () => {
    const { project, layout } = setUp();
    const [kit, bass] = ["drums", "bass"].map((id) =>
      layout.blocks.find(({ track }) => track.id === id)!,
    );
    const own = pullLines(project, layout, ask({}, [DRUMS, BASS]));
    expect(own).toHaveLength(kit!.rows.length + 1);
    const lane = (pitch: number) => own[kit!.rows.findIndex((row) => row.pitch === pitch)]!;
    // A kick is drawn on eighths, a closed hat on sixteenths.
    expect([lane(36).ticks.length, lane(42).ticks.length]).toEqual([16, 32]);
    expect(own.at(-1)).toMatchObject({
      top: bass!.rows[0]!.y,
      bottom: bass!.rows.at(-1)!.y + bass!.rows.at(-1)!.height,
    });
    // Every note stands on one of them afterwards.
    for (const [params, place, pitch] of [
      [{}, DRUMS, 36],
      [{}, DRUMS, 42],
      [{ value: "8", kind: "triplet" }, DRUMS, 42],
      [{ value: "16", swing: 62 }, BASS, 45],
      [{ from: "drums" }, BASS, 45],
    ] as const) {
      const asked = ask(params, [place], place === DRUMS ? pitch : undefined);
      const [lines] = pullLines(project, layout, asked);
      const track = project.tracks.find(({ id }) => id === place.track)!;
      const part = partOf(project, place);
      const context = contextOf(project, track, part, project.patterns[0]!);
      const made = transformOf("quantize").apply(part.notes, asked.params, context).notes;
      for (const note of made.filter((one) => one.pitch === pitch))
        expect(lines!.ticks).toContain(note.start);
    }
  });

  it("go round with the loop, and are none of what pulls to nothing or of another pattern", () => {
    const { project } = setUp();
    const short = edits.setPartLength(project, BASS, 960);
    const open = new Set(["drums", "bass"]);
    const layout = layOut(short, "a", { open });
    const [lines] = pullLines(short, layout, ask({ value: "4" }, [BASS]));
    expect(lines!.ticks).toEqual(Array.from({ length: 8 }, (_, i) => i * 960));
    const reverse = { ...ask({}, [BASS]), transform: "reverse" };
    expect(pullLines(short, layout, reverse)).toEqual([]);
    expect(pullLines(short, layout, ask({}, [{ ...BASS, pattern: "b" }]))).toEqual([]);
  });

  it("of a groove lie where its steps are, early or late", () => {
    const { project, layout } = setUp();
    const asked = { transform: "groove", params: { groove: "1/8 0/- 38/-" }, places: [BASS] };
    const [lines] = pullLines(project, layout, asked);
    expect(lines!.ticks.slice(0, 4)).toEqual([0, 518, 960, 1478]);
  });
});
