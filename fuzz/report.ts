/** What went wrong in a run of tries, and how many there were. */
export class Report {
  private readonly faults: string[] = [];
  private readonly notes: string[] = [];
  private tries = 0;
  private slowest = 0;
  private readonly answers = new Map<string, number>();

  constructor(readonly name: string) {}

  /** Counts a try by what came of it. */
  tried(answer: string, took = 0): void {
    this.tries++;
    this.slowest = Math.max(this.slowest, took);
    this.answers.set(answer, (this.answers.get(answer) ?? 0) + 1);
  }

  /** What is printed beside the counts. */
  note(what: string): void {
    this.notes.push(what);
  }

  fault(what: string): void {
    this.faults.push(what);
  }

  get failed(): number {
    return this.faults.length;
  }

  get passed(): number {
    return this.tries - Math.min(this.tries, this.faults.length);
  }

  print(): void {
    const counts = [...this.answers]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([answer, count]) => `${answer} ×${count}`);
    console.log(`${this.name}: ${this.tries} tries, ${this.failed} faults, slowest ${this.slowest.toFixed(0)} ms`);
    for (const note of [counts.join(', '), ...this.notes]) console.log(`  ${note}`);
    for (const fault of this.faults.slice(0, 20)) console.log(`  ✘ ${fault}`);
  }
}

/** Milliseconds beyond which something hangs. */
export const HANGS = 5000;
