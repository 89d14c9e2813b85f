import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Pressable } from 'react-native';
import { watchInput } from '../ui/last-input';
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
  render(<Place />);
});

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
