import type { Keeps } from '@hastig/core';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { keepsChosen } from '../../../store/session-slice';
import { Choice } from '../../../ui/choice';

/** What an edit leaves alone; the choice holds for the next edits too. */
export function useKeeps(): { keeps: Keeps; entry: React.ReactNode } {
  const dispatch = useAppDispatch();
  const keeps = useAppSelector((state) => state.session.keeps);
  const entry = (
    <Choice
      label="Keep"
      value={keeps}
      onChange={(value) => dispatch(keepsChosen(value))}
      options={[
        { value: 'content', label: 'Content' },
        { value: 'length', label: 'Length' },
      ]}
    />
  );
  return { keeps, entry };
}
