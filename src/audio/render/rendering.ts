import type { Hertz, Seconds } from "@/core/base";
import { Mixer, type Routes } from "../mixer";
import type { PadRenderer } from "../pads/render";
import { RenderPort } from "./render-port";

/** A mixer whose sound is rendered as fast as it goes, and where to ask for it. */
export function rendering(
  rate: Hertz,
  how: { render: PadRenderer; epoch?: Seconds; routes?: Routes },
): { mixer: Mixer; port: RenderPort } {
  let port: RenderPort | null = null;
  // The clock is the port itself, which is there when it is first read.
  const clock = {
    sampleRate: rate,
    get currentTime() {
      return port!.currentTime;
    },
  };
  const makePort = (options: ConstructorParameters<typeof RenderPort>[0]) =>
    (port = new RenderPort(options, rate));
  const mixer = new Mixer(clock, makePort, { ...how, metering: false });
  return { mixer, port: port! };
}
