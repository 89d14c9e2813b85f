let byKeys = false;
if (typeof document !== 'undefined') {
  document.addEventListener('keydown', () => (byKeys = true), true);
  document.addEventListener('pointerdown', () => (byKeys = false), true);
}

/** Whether what was done last was done with the keyboard, and goes on with it. */
export const lastInputByKeys = (): boolean => byKeys;
