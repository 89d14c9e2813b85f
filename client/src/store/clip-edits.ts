import { compile, setPartSpeed, spanIndexAt } from '@hastig/core';
import { retime } from './edit';
import type { AppThunk } from './store';

/** Gives the part between two keys in which an output frame lies one speed. */
export function setSpeedHere(clipId: string, frame: number, speed: number): AppThunk<boolean> {
  return (dispatch, getState) => {
    const { keeps } = getState().session;
    return dispatch(
      retime('set the speed', clipId, (map) => setPartSpeed(map, spanIndexAt(compile(map), frame), speed, keeps)),
    );
  };
}
