export function waveFile(
  samples: Int16Array,
  options?: { rate?: number; channels?: number },
): Buffer<ArrayBuffer>;
