let byKeys = false;

/** Begins to notice what is done with the keyboard and what with a pointer; once for each page. */
export function watchInput(): void {
  document.addEventListener('keydown', () => (byKeys = true), true);
  document.addEventListener('pointerdown', () => (byKeys = false), true);
}

/** Whether what was done last was done with the keyboard, and goes on with it. */
export const lastInputByKeys = (): boolean => byKeys;
