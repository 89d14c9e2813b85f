/** Milliseconds after which a device's time stamp says nothing of where it is now. */
const OLD = 200;

/** Wall time (ms since 1970, with fractions) at which a moment of an audio context's time is heard. */
export function heardAt(context: AudioContext, time: number): number {
  const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
  const now = performance.now();
  // Just after the start there is no time stamp yet, and while a device stands still it gets old; then the latency that the
  // device reports stands in.
  const [seconds, milliseconds] =
    contextTime > 0 && now - performanceTime < OLD
      ? [contextTime, performanceTime]
      : [context.currentTime - (context.outputLatency || 0), now];
  return performance.timeOrigin + milliseconds + (time - seconds) * 1000;
}
