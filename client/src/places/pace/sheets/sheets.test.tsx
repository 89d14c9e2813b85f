import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { storedProject } from '../../../../test/project';
import { opened } from '../../../store/project-slice';
import { openClip } from '../../../store/selectors';
import { makeStore } from '../../../store/store';
import { FreezeSheet, SpeedSheet } from './edits';

function show(Sheet: typeof SpeedSheet) {
  const { store } = makeStore();
  store.dispatch(opened({ project: storedProject() }));
  const onClose = jest.fn();
  const { map } = openClip(store.getState(), 'clip')!;
  render(
    <Provider store={store}>
      <Sheet clipId="clip" map={map} onClose={onClose} />
    </Provider>,
  );
  return { store, onClose, user: userEvent.setup() };
}

async function type(user: ReturnType<typeof userEvent.setup>, name: string, text: string): Promise<void> {
  const field = screen.getByRole('textbox', { name });
  await user.clear(field);
  if (text) await user.type(field, text);
}

describe('a sheet', () => {
  it('tries an edit out before it is applied, and applies it as one step', async () => {
    const { store, onClose, user } = show(SpeedSheet);
    await type(user, 'Speed', '50%');
    expect(store.getState().session.trial?.clips[0]!.timing.spans[0]!.frames).toBe(300);
    expect(store.getState().project.past).toEqual([]);
    expect(screen.getByRole('status')).toHaveTextContent('300 frames');
    await user.click(screen.getByRole('button', { name: 'Apply' }));
    expect(openClip(store.getState(), 'clip')!.map.spans[0]!.y[0]).toBe(0.5);
    expect(store.getState().project.past).toHaveLength(1);
    expect(onClose).toHaveBeenCalledTimes(1);
  });

  it.each([
    ['', /Speed is empty/],
    ['abc', /Speed isn’t valid/],
    ['-0', /At 0% the content never ends/],
    ['99999999%', /Speed is out of range/],
  ])('says what is wrong with "%s" and cannot be applied', async (text, reason) => {
    const { store, user } = show(SpeedSheet);
    await type(user, 'Speed', text);
    expect(screen.getByRole('alert')).toHaveTextContent(reason);
    expect(screen.getByRole('button', { name: 'Apply' })).toBeDisabled();
    expect(store.getState().session.trial).toBeNull();
  });

  it('leaves nothing behind when it is discarded', async () => {
    const { store, onClose, user } = show(FreezeSheet);
    await type(user, 'Duration', '1:15');
    expect(store.getState().session.trial?.clips[0]!.timing.spans[0]).toMatchObject({ frames: 45, y: [0, 0, 0, 0] });
    await user.click(screen.getByRole('button', { name: 'Discard' }));
    expect(onClose).toHaveBeenCalled();
    expect(store.getState().project.past).toEqual([]);
  });
});
