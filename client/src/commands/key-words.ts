const named: Record<string, string> = {
  space: 'Space',
  ArrowRight: '→',
  ArrowLeft: '←',
  Delete: 'Del',
  Escape: 'Esc',
  mod: 'Ctrl',
  shift: 'Shift',
};

/** A key for people: `Ctrl + Shift + Z`. */
export function keyWords(key: string): string {
  const parts = key === '+' ? ['+'] : key.split('+');
  return parts.map((part) => named[part] ?? (part.length === 1 ? part.toUpperCase() : part)).join(' + ');
}
