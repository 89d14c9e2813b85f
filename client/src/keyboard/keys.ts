/** What keys do. Each binding stands here once: the listeners and the map of keys both read it. */
export type KeyCommand =
  | 'play'
  | 'frame-on'
  | 'frame-back'
  | 'ten-on'
  | 'ten-back'
  | 'first-frame'
  | 'last-frame'
  | 'loop'
  | 'next-key'
  | 'previous-key'
  | 'undo'
  | 'redo'
  | 'redo-too'
  | 'mark-in'
  | 'mark-out'
  | 'clear-marks'
  | 'add-key'
  | 'remove-key'
  | 'edit-key'
  | 'pin'
  | 'lock'
  | 'speed'
  | 'range'
  | 'ramp'
  | 'ease'
  | 'freeze'
  | 'reverse'
  | 'fit'
  | 'draw'
  | 'select'
  | 'copy-timing'
  | 'paste-timing'
  | 'snap'
  | 'zoom-all'
  | 'zoom-selection'
  | 'zoom-in'
  | 'zoom-out'
  | 'view'
  | 'unit'
  | 'guide'
  | 'warnings'
  | 'close'
  | 'key-map';

export interface KeyBinding {
  /** As `use-shortcuts` names keys. */
  key: string;
  words: string;
}

/** All keys by what they are about, in the order of the map of keys. */
export const keyGroups: readonly { name: string; bindings: Partial<Record<KeyCommand, KeyBinding>> }[] = [
  {
    name: 'Moving',
    bindings: {
      play: { key: 'space', words: 'Play or pause' },
      'frame-on': { key: 'ArrowRight', words: 'One frame on' },
      'frame-back': { key: 'ArrowLeft', words: 'One frame back' },
      'ten-on': { key: 'shift+ArrowRight', words: 'Ten frames on' },
      'ten-back': { key: 'shift+ArrowLeft', words: 'Ten frames back' },
      'next-key': { key: '.', words: 'To the next key' },
      'previous-key': { key: ',', words: 'To the key before' },
      'first-frame': { key: 'Home', words: 'To the first frame' },
      'last-frame': { key: 'End', words: 'To the last frame' },
      loop: { key: 'q', words: 'Loop on or off' },
    },
  },
  {
    name: 'Range',
    bindings: {
      'mark-in': { key: 'i', words: 'Mark in at the playhead' },
      'mark-out': { key: 'o', words: 'Mark out at the playhead' },
      'clear-marks': { key: 'x', words: 'Clear the marks' },
      range: { key: 'g', words: 'Pace the range at once' },
    },
  },
  {
    name: 'Shaping',
    bindings: {
      'add-key': { key: 'n', words: 'New key at the playhead' },
      'edit-key': { key: 'm', words: 'The selected key’s numbers' },
      'remove-key': { key: 'Delete', words: 'Remove the selected keys' },
      pin: { key: 'p', words: 'Pin or unpin the frame at the playhead' },
      lock: { key: 'u', words: 'Lock or unlock the part' },
      speed: { key: 's', words: 'Speed' },
      ramp: { key: 'r', words: 'Ramp' },
      ease: { key: 'e', words: 'Ease' },
      freeze: { key: 'f', words: 'Freeze' },
      reverse: { key: 'b', words: 'Reverse' },
      fit: { key: 't', words: 'Fit the clip' },
      draw: { key: 'd', words: 'Draw speeds' },
      select: { key: 'h', words: 'Choose several keys with a box' },
    },
  },
  {
    name: 'Seeing',
    bindings: {
      view: { key: 'v', words: 'Speed, positions, ledger' },
      unit: { key: 'y', words: 'Timecode, frames, seconds' },
      'zoom-in': { key: '+', words: 'Closer' },
      'zoom-out': { key: '-', words: 'Further away' },
      'zoom-all': { key: '0', words: 'All of the clip' },
      'zoom-selection': { key: 'z', words: 'The selection, or the marked range' },
      snap: { key: 'w', words: 'Snapping on or off (Alt holds it off)' },
      guide: { key: '1', words: 'Guide: floor and cadence' },
      warnings: { key: '2', words: 'Warnings' },
    },
  },
  {
    name: 'Always',
    bindings: {
      undo: { key: 'mod+z', words: 'Undo' },
      redo: { key: 'mod+shift+z', words: 'Redo' },
      'redo-too': { key: 'mod+y', words: 'Redo' },
      'copy-timing': { key: 'c', words: 'Copy the clip’s timing' },
      'paste-timing': { key: 'shift+c', words: 'Paste a timing' },
      close: { key: 'Escape', words: 'Close a sheet, end a mode' },
      'key-map': { key: '?', words: 'This map of keys' },
    },
  },
];

const bindings: Partial<Record<KeyCommand, KeyBinding>> = Object.assign(
  {},
  ...keyGroups.map((group) => group.bindings),
);

/** Listeners for some commands, by the keys they are bound to. */
export function keysFor(commands: Partial<Record<KeyCommand, () => void>>): Record<string, () => void> {
  const keys: Record<string, () => void> = {};
  for (const [command, run] of Object.entries(commands)) keys[bindings[command as KeyCommand]!.key] = run;
  return keys;
}

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
