import { beatsCommands } from '../places/beats/commands';
import { footageCommands } from '../places/footage/footage-commands';
import { sourceCommands } from '../places/footage/source-commands';
import { outputCommands } from '../places/output/output-commands';
import { paceCommands } from '../places/pace/commands';
import { pictureCommands } from '../places/picture/commands';
import { soundCommands } from '../places/sound/commands';
import { timelineCommands } from '../places/timeline/commands';
import { behindMore, inBar, shortcutList, type Command } from './command';
import { historyCommands, movingCommands } from './general';
import { keyWords } from './key-words';

const withBar: readonly (readonly [string, readonly Command<never, never>[]])[] = [
  ['Beats', beatsCommands],
  ['Pace', paceCommands],
  ['Picture', pictureCommands],
  ['Sound', soundCommands],
  ['the timeline', timelineCommands],
];
/** Their buttons stand where what they are about stands. */
const withoutBar: readonly (readonly [string, readonly Command<never, never>[]])[] = [
  ['Footage', footageCommands],
  ['Output', outputCommands],
  ['a source', sourceCommands],
];

describe.each(withoutBar)('the commands of %s', (_, commands) => {
  it('are told apart by their ids and shortcuts, and all have a button', () => {
    const all = [...movingCommands, ...historyCommands, ...commands];
    const keys = all.flatMap(({ shortcut }) => (shortcut ? [shortcut[0]] : []));
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    expect(commands.filter(({ label, icon }) => !label || !icon)).toEqual([]);
  });
});

describe.each(withBar)('the commands of %s', (_, commands) => {
  it('are told apart by their ids, and have a shortcut each at most', () => {
    const all = [...movingCommands, ...historyCommands, ...commands];
    const keys = all.flatMap(({ shortcut }) => (shortcut ? [shortcut[0]] : []));
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
  });

  it('all have a place: in a bar, behind “More”, or at a shortcut', () => {
    const reached = new Set([
      ...inBar(commands, true).map(({ id }) => id),
      ...behindMore(commands).flatMap(([, ofGroup]) => ofGroup.map(({ id }) => id)),
    ]);
    expect(commands.filter(({ id, shortcut }) => !reached.has(id) && !shortcut)).toEqual([]);
    // On a phone, what has only a place in the bar of a wide screen would not be reached.
    const onPhone = new Set([
      ...inBar(commands, false).map(({ id }) => id),
      ...behindMore(commands).flatMap(([, ofGroup]) => ofGroup.map(({ id }) => id)),
    ]);
    expect([...reached].filter((id) => !onPhone.has(id))).toEqual([]);
  });

  it('that open a sheet only at times say why not at their shortcut', () => {
    const silent = commands.filter(({ shortcut, possible, ready, sheet }) => shortcut && possible && sheet && !ready);
    expect(silent.map(({ id }) => id)).toEqual([]);
  });

  it('fit the thumb’s bar, which ends with the way to all others', () => {
    const bar = inBar(commands, false).map(({ id }) => id);
    expect(bar).toHaveLength(6);
    expect(bar.at(-1)).toBe('more');
    expect(inBar(commands, true).at(-1)!.id).toBe('more');
  });
});

describe('the list of shortcuts', () => {
  it('has them by what they are about', () => {
    const list = shortcutList([...movingCommands, ...paceCommands]);
    expect(list.map(({ name }) => name)).toEqual(['Playback', 'Range', 'Retiming', 'View', 'General']);
    expect(list[0]!.shortcuts[0]).toEqual({ keys: 'space', words: 'Play or pause' });
  });

  it('names keys as they stand on a keyboard', () => {
    expect(['mod+shift+z', 'space', '+', 'shift+ArrowLeft', '?'].map(keyWords)).toEqual([
      'Ctrl + Shift + Z',
      'Space',
      '+',
      'Shift + ←',
      '?',
    ]);
  });
});
