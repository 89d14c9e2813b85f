let byKeys = false;
let pointing = false;
/** What has or had the focus because the pointer was on it. */
const chosenByPointer = new WeakSet<EventTarget>();

/** Begins to notice what is done with the keyboard and what with a pointer; once for each page. */
export function watchInput(): void {
  const point = (now: boolean) => () => (pointing = now);
  globalThis.addEventListener('keydown', () => (byKeys = true), true);
  globalThis.addEventListener('pointerdown', () => (byKeys = false), true);
  // The focus follows the mouse's button, which a finger presses too, after it has left the screen.
  globalThis.addEventListener('mousedown', point(true), true);
  globalThis.addEventListener('mouseup', point(false), true);
  globalThis.addEventListener('dragend', point(false), true);
  globalThis.addEventListener(
    'focusin',
    ({ target }) => {
      if (!target) return;
      if (pointing) chosenByPointer.add(target);
      else chosenByPointer.delete(target);
    },
    true,
  );
}

/** Whether what was done last was done with the keyboard, and goes on with it. */
export const lastInputByKeys = (): boolean => byKeys;

/**
 * Whether a control holds the keys: the keyboard reached it, so Space presses it and arrows move it. What was chosen with the
 * pointer does not, so that Space plays whatever was clicked before.
 */
export const holdsKeys = (target: EventTarget): boolean => target !== document.body && !chosenByPointer.has(target);

/** Gives the focus back to what had it, which holds the keys only if it did before or they were used last. */
export function focusAgain(element: HTMLElement): void {
  const chosen = !byKeys && chosenByPointer.has(element);
  element.focus({ preventScroll: true });
  if (chosen) chosenByPointer.add(element);
}
