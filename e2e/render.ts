import type { Page } from "@playwright/test";
import type { Held, Later } from "@/audio/bounce";
import type { Project } from "@/core/score";
import type { PlaybackOptions } from "@/core/playback";

/** What is heard: left and right. */
export interface Heard {
  rate: number;
  left: Float32Array;
  right: Float32Array;
}

type Asked =
  | {
      project: Project;
      held: { track: string; notes: readonly Held[]; seconds: number; later: readonly Later[] };
    }
  | {
      project: Project;
      stretch: { from: number; to: number; options: PlaybackOptions & { tail?: number } };
    };

/** Renders in the page. Sound comes over as text, which is quicker to hand over than numbers. */
async function rendered(page: Page, asked: Asked): Promise<Heard> {
  const { rate, sides } = await page.evaluate(async (what) => {
    const { bounce, bounceHeld } = window.hailstep!;
    const buffer =
      "held" in what
        ? await bounceHeld(
            what.project,
            { track: what.held.track, notes: what.held.notes, seconds: what.held.seconds },
            {
              later: what.held.later,
            },
          )
        : await bounce(what.project, what.stretch.from, what.stretch.to, what.stretch.options);
    return {
      rate: buffer.sampleRate,
      sides: [0, 1].map((side) => {
        const bytes = new Uint8Array(buffer.getChannelData(side).buffer);
        let text = "";
        for (let i = 0; i < bytes.length; i += 32_768)
          text += String.fromCharCode(...bytes.subarray(i, i + 32_768));
        return btoa(text);
      }),
    };
  }, asked);
  const [left, right] = sides.map((side) => {
    const bytes = Buffer.from(side, "base64");
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 4).slice();
  });
  return { rate, left: left!, right: right! };
}

/** Renders notes held on a track of a project, with edits of it on the way. */
export const renderHeld = (
  page: Page,
  project: Project,
  track: string,
  notes: readonly Held[],
  seconds: number,
  later: readonly Later[] = [],
): Promise<Heard> => rendered(page, { project, held: { track, notes, seconds, later } });

/** Renders a stretch of a project. */
export const renderStretch = (
  page: Page,
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions & { tail?: number } = {},
): Promise<Heard> => rendered(page, { project, stretch: { from, to, options } });
