/** One figure, its name first. */
export function line(name: string, text: string): void {
  console.log(`${name.padEnd(36)} ${text}`);
}
