import { fireEvent, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Pressable } from 'react-native';
import { paceCommands } from '../places/pace/commands';
import { timelineCommands } from '../places/timeline/commands';
import { watchInput } from '../ui/last-input';
import type { Shown } from './command';
import { historyCommands, movingCommands } from './general';
import { useShortcuts } from './use-shortcuts';

const done: string[] = [];
const press = (name: string) => () => void done.push(name);

function Place() {
  useShortcuts({ space: press('play'), Enter: press('open'), ArrowRight: press('next') });
  return (
    <>
      <Pressable role="button" accessibilityLabel="Loop" onPress={press('loop')} />
      <Pressable role="radio" accessibilityLabel="Fast" onPress={press('fast')} />
      <div
        role="slider"
        aria-label="Level"
        aria-valuenow={1}
        tabIndex={0}
        onKeyDown={(event) => {
          if (event.key !== 'ArrowRight') return;
          event.stopPropagation();
          done.push('level');
        }}
      />
      <input aria-label="Name" />
    </>
  );
}

beforeAll(watchInput);
beforeEach(() => {
  done.length = 0;
});

describe('a place', () => {
  beforeEach(() => void render(<Place />));

  it.each(['Loop', 'Fast', 'Level'])('after a click on %s the keys are the place’s', async (name) => {
    const user = userEvent.setup();
    await user.click(screen.getByLabelText(name));
    done.length = 0;
    expect(screen.getByLabelText(name)).toHaveFocus();
    await user.keyboard(' {Enter}{ArrowRight}');
    expect(done).toEqual(['play', 'open', 'next']);
  });

  it('a control that the keyboard has reached has them', async () => {
    const user = userEvent.setup();
    await user.tab();
    expect(screen.getByLabelText('Loop')).toHaveFocus();
    await user.keyboard(' {ArrowRight}');
    expect(done).toEqual(['loop', 'next']);
    await user.tab();
    await user.tab();
    await user.keyboard('{ArrowRight} ');
    expect(done).toEqual(['loop', 'next', 'level', 'play']);
  });

  it('a control that was clicked has them once the keyboard comes back to it', async () => {
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Loop'));
    await user.tab();
    await user.tab({ shift: true });
    done.length = 0;
    await user.keyboard(' ');
    expect(done).toEqual(['loop']);
  });

  it('what is typed is typed', async () => {
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Name'));
    await user.keyboard('a b{Enter}');
    expect(done).toEqual([]);
    expect(screen.getByLabelText('Name')).toHaveValue('a b');
  });
});

describe('every shortcut there is', () => {
  const all: readonly Shown[] = [...movingCommands, ...historyCommands, ...paceCommands, ...timelineCommands];
  const names = [...new Set(all.flatMap(({ shortcut }) => (shortcut ? [shortcut[0]] : [])))];

  function AllKeys() {
    useShortcuts(Object.fromEntries(names.map((name) => [name, press(name)])));
    // Each keeps every key to itself, as controls do with those they have a use for.
    const keep = { onKeyDown: (event: { stopPropagation(): void }) => event.stopPropagation() };
    return (
      <>
        <Pressable role="button" accessibilityLabel="A button" onPress={press('pressed')} />
        <Pressable role="radio" accessibilityLabel="An option" onPress={press('pressed')} />
        <Pressable role="checkbox" accessibilityLabel="A box" onPress={press('pressed')} />
        <Pressable role="link" accessibilityLabel="A link" onPress={press('pressed')} />
        <div role="slider" aria-label="A handle" aria-valuenow={1} tabIndex={0} {...keep} />
        <div role="separator" aria-label="A divider" aria-valuenow={1} tabIndex={0} {...keep} />
        <div role="group" aria-label="A clip" tabIndex={0} {...keep} />
      </>
    );
  }

  it.each(['A button', 'An option', 'A box', 'A link', 'A handle', 'A divider', 'A clip'])(
    'works after a click on %s',
    async (label) => {
      render(<AllKeys />);
      const control = screen.getByLabelText(label);
      await userEvent.setup().click(control);
      expect(control).toHaveFocus();
      done.length = 0;
      for (const name of names) {
        const parts = name === '+' ? ['+'] : name.split('+');
        const key = parts.at(-1) === 'space' ? ' ' : parts.at(-1)!;
        fireEvent.keyDown(control, { key, shiftKey: parts.includes('shift'), ctrlKey: parts.includes('mod') });
        fireEvent.keyUp(control, { key });
      }
      expect(done).toEqual(names);
    },
  );
});
