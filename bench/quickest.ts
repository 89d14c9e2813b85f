/** Milliseconds of the quickest of so many rounds: what the work itself takes, once it is warm. */
export function quickest(task: () => void, rounds = 21): number {
  const times = Array.from({ length: rounds }, () => {
    const started = performance.now();
    task();
    return performance.now() - started;
  });
  return Math.min(...times);
}
