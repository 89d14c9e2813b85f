/** Milliseconds of the quickest of some rounds: what the work itself takes. */
export function quickest(task: () => void, rounds = 7): number {
  const times = Array.from({ length: rounds }, () => {
    const started = performance.now();
    task();
    return performance.now() - started;
  });
  return Math.min(...times);
}
