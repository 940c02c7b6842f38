/** A block of the audio graph, in samples: what Chromium and WebKit add to each way round a cycle. */
export const BLOCK = 128;
const DELAY = 1024;

let found: Promise<number> | null = null;

/**
 * Samples that this browser adds to each way round a cycle of nodes: none by the specification, a block of 128
 * where a cycle is closed with what was computed for the block before. Measured once, by a click that goes round.
 */
export function cycleFrames(): Promise<number> {
  found ??= measured().catch(() => BLOCK);
  return found;
}

async function measured(): Promise<number> {
  const context = new OfflineAudioContext(1, 4 * DELAY, 44_100);
  const click = context.createBufferSource();
  click.buffer = context.createBuffer(1, 1, 44_100);
  click.buffer.getChannelData(0)[0] = 1;
  const delay = context.createDelay(1);
  delay.delayTime.value = DELAY / 44_100;
  const back = context.createGain();
  back.gain.value = 0.5;
  click.connect(delay).connect(back).connect(delay);
  delay.connect(context.destination);
  click.start();
  const samples = (await context.startRendering()).getChannelData(0);
  let at = DELAY + DELAY / 2;
  for (let i = at; i < samples.length; i++) if (samples[i]! > samples[at]!) at = i;
  return Math.max(0, Math.round(at) - 2 * DELAY);
}
