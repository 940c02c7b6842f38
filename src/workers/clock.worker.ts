/**
 * A timer apart from the page: timers of a page are slowed down when it is hidden and wait while
 * it is busy. Posts an empty message every `ms` milliseconds while on.
 */
let timer: ReturnType<typeof setInterval> | null = null;

self.onmessage = ({ data }: MessageEvent<{ ms: number | null }>) => {
  if (timer) clearInterval(timer);
  timer = data.ms === null ? null : setInterval(() => self.postMessage(null), data.ms);
};
