import { useState } from 'react';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { TapNumber } from './tap-number';

function show(onEnter: (text: string) => string | undefined) {
  render(<TapNumber label="Speed" text="×0.40 ▽" entry="40%" onEnter={onEnter} />);
  return userEvent.setup();
}

const open = async (user: ReturnType<typeof userEvent.setup>): Promise<HTMLElement> => {
  await user.click(screen.getByRole('button', { name: /^Speed: ×0\.40/ }));
  return screen.getByRole('textbox', { name: 'Speed' });
};

describe('a number that is tapped to be typed', () => {
  it('takes what is typed and closes', async () => {
    const onEnter = jest.fn();
    const user = show(onEnter);
    const field = await open(user);
    expect(field).toHaveValue('40%');
    await user.clear(field);
    await user.type(field, '25%{Enter}');
    expect(onEnter).toHaveBeenCalledWith('25%');
    expect(screen.queryByRole('textbox')).toBeNull();
  });

  it('says what is wrong and keeps what was typed', async () => {
    const user = show(() => 'isn’t valid');
    const field = await open(user);
    await user.clear(field);
    await user.type(field, 'fast{Enter}');
    expect(screen.getByRole('alert')).toHaveTextContent('Speed isn’t valid');
    expect(screen.getByRole('textbox', { name: 'Speed' })).toHaveValue('fast');
  });

  it('changes nothing when nothing was changed, or with Escape', async () => {
    const onEnter = jest.fn();
    const user = show(onEnter);
    await user.type(await open(user), '{Enter}');
    await user.type(await open(user), '9{Escape}');
    expect(onEnter).not.toHaveBeenCalled();
    expect(screen.queryByRole('textbox')).toBeNull();
  });
});

it('is stepped by the buttons beneath it, and follows what the step came to', async () => {
  function Counting() {
    const [value, setValue] = useState(7);
    return (
      <TapNumber label="Output" text={`${value}f`} onEnter={() => 'is wrong'} onStep={(by) => setValue(value + by)} />
    );
  }
  render(<Counting />);
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: /^Output: 7f/ }));
  await user.click(screen.getByRole('button', { name: 'Output: more' }));
  await user.click(screen.getByRole('button', { name: 'Output: more' }));
  await user.click(screen.getByRole('button', { name: 'Output: less' }));
  expect(screen.getByRole('textbox', { name: 'Output' })).toHaveValue('8f');
});
