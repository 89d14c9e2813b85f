/** Asks the browser for notifications. @returns whether they are allowed */
export async function askToNotify(): Promise<boolean> {
  if (!('Notification' in globalThis)) return false;
  return (await Notification.requestPermission()) === 'granted';
}

/** Tells by a notification that renders are done, where the page is not looked at. */
export function noteDone(outcomes: readonly { text: string; bad: boolean }[]): void {
  if (!document.hidden || !('Notification' in globalThis) || Notification.permission !== 'granted') return;
  const failed = outcomes.filter(({ bad }) => bad).length;
  try {
    new Notification(failed > 0 ? 'A render failed' : 'Renders are done', {
      body: outcomes.map(({ text }) => text).join('\n'),
    });
  } catch {
    // Some phones let only a service worker notify; the outcome stands in Output all the same.
  }
}
