const pixels = (size: number) => Math.round(size * (window.devicePixelRatio || 1));

/** Whether fitting a canvas to a size will clear it. */
export function isOtherSize(canvas: HTMLCanvasElement, width: number, height: number): boolean {
  return canvas.width !== pixels(width) || canvas.height !== pixels(height);
}

/** Fits a canvas to a size in CSS pixels on this screen and returns its context, scaled. */
export function prepareCanvas(
  canvas: HTMLCanvasElement,
  width: number,
  height: number,
): CanvasRenderingContext2D | null {
  const ratio = window.devicePixelRatio || 1;
  const [w, h] = [pixels(width), pixels(height)];
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  const ctx = canvas.getContext("2d");
  ctx?.setTransform(ratio, 0, 0, ratio, 0, 0);
  return ctx;
}
