/** What keys do. Each binding stands here once: the listeners and the map of keys both read it. */
export type KeyCommand =
  | 'play'
  | 'shuttle-on'
  | 'shuttle-back'
  | 'shuttle-stop'
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
  | 'key-map'
  | TimelineCommand;

type TimelineCommand =
  | 'split'
  | 'trim-start'
  | 'trim-end'
  | 'remove-clips'
  | 'lift-clips'
  | 'duplicate'
  | 'group'
  | 'marker'
  | 'markers'
  | 'add'
  | 'clip'
  | 'picture'
  | 'join'
  | 'next-cut'
  | 'previous-cut'
  | 'all-clips'
  | 'into'
  | 'edges'
  | 'room';

export interface KeyBinding {
  /** As `use-shortcuts` names keys. */
  key: string;
  words: string;
}

/** Places whose keys may mean something of their own. */
export type KeyPlace = 'pace' | 'timeline';

export interface KeyGroup {
  name: string;
  /** Where they hold; everywhere unless told. */
  place?: KeyPlace;
  bindings: Partial<Record<KeyCommand, KeyBinding>>;
}

/** All keys by what they are about, in the order of the map of keys. */
export const keyGroups: readonly KeyGroup[] = [
  {
    name: 'Moving',
    bindings: {
      play: { key: 'space', words: 'Play or pause' },
      'frame-on': { key: 'ArrowRight', words: 'One frame on' },
      'frame-back': { key: 'ArrowLeft', words: 'One frame back' },
      'ten-on': { key: 'shift+ArrowRight', words: 'Ten frames on' },
      'ten-back': { key: 'shift+ArrowLeft', words: 'Ten frames back' },
      'shuttle-on': { key: 'l', words: 'Play on, faster each time' },
      'shuttle-stop': { key: 'k', words: 'Stop' },
      'shuttle-back': { key: 'j', words: 'Play backwards, faster each time' },
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
    },
  },
  {
    name: 'Shaping speeds',
    place: 'pace',
    bindings: {
      'next-key': { key: '.', words: 'To the next key' },
      'previous-key': { key: ',', words: 'To the key before' },
      range: { key: 'g', words: 'Pace the range at once' },
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
    name: 'Laying clips',
    place: 'timeline',
    bindings: {
      'next-cut': { key: '.', words: 'To the next cut or marker' },
      'previous-cut': { key: ',', words: 'To the cut or marker before' },
      marker: { key: 'm', words: 'Marker at the playhead' },
      markers: { key: 'n', words: 'List of markers' },
      add: { key: 'a', words: 'Add footage' },
      split: { key: 's', words: 'Split at the playhead' },
      'trim-start': { key: 'h', words: 'Begin the clip at the playhead' },
      'trim-end': { key: 't', words: 'End the clip at the playhead' },
      'remove-clips': { key: 'Delete', words: 'Remove the chosen clips' },
      'lift-clips': { key: 'shift+Delete', words: 'Remove them and leave the room' },
      duplicate: { key: 'd', words: 'Duplicate the chosen clips' },
      group: { key: 'g', words: 'Group the chosen clips' },
      join: { key: 'u', words: 'Join across the cut' },
      clip: { key: 'e', words: 'The clip’s numbers' },
      picture: { key: 'p', words: 'How its picture lies' },
      into: { key: 'Enter', words: 'Open the group, or Pace' },
      'all-clips': { key: 'mod+a', words: 'Choose all clips' },
      edges: { key: 'r', words: 'Edges trim or stretch' },
      room: { key: 'f', words: 'Close or leave the room' },
    },
  },
  {
    name: 'Seeing speeds',
    place: 'pace',
    bindings: {
      view: { key: 'v', words: 'Speed, positions, ledger' },
      guide: { key: '1', words: 'Guide: floor and cadence' },
      warnings: { key: '2', words: 'Warnings' },
    },
  },
  {
    name: 'Seeing',
    bindings: {
      unit: { key: 'y', words: 'Timecode, frames, seconds' },
      'zoom-in': { key: '+', words: 'Closer' },
      'zoom-out': { key: '-', words: 'Further away' },
      'zoom-all': { key: '0', words: 'All of it' },
      'zoom-selection': { key: 'z', words: 'The selection, or the marked range' },
      snap: { key: 'w', words: 'Snapping on or off (Alt holds it off)' },
    },
  },
  {
    name: 'Always',
    bindings: {
      undo: { key: 'mod+z', words: 'Undo' },
      redo: { key: 'mod+shift+z', words: 'Redo' },
      'redo-too': { key: 'mod+y', words: 'Redo' },
      'copy-timing': { key: 'c', words: 'Copy the clip’s timing and settings' },
      'paste-timing': { key: 'shift+c', words: 'Paste what was copied' },
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
