import type { Seconds } from "@/core";

/** One beat of the click: a short blip, higher and louder on the first beat of the bar. */
export function clickAt(context: BaseAudioContext, time: Seconds, strong: boolean): void {
  const source = context.createOscillator();
  const gain = context.createGain();
  source.type = "triangle";
  source.frequency.value = strong ? 1760 : 1175;
  gain.gain.setValueAtTime(strong ? 0.2 : 0.12, time);
  gain.gain.exponentialRampToValueAtTime(0.0005, time + 0.05);
  source.connect(gain).connect(context.destination);
  source.start(time);
  source.stop(time + 0.06);
}
