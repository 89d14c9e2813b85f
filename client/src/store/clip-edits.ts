import { compile, isPlateau, setPlateauSpeed, setSpeed, spanIndexAt } from '@hastig/core';
import { retime } from './edit';
import type { AppThunk } from './store';

/** Gives the part between two keys in which an output frame lies one speed; a ramp there becomes a plateau. */
export function setSpeedHere(clipId: string, frame: number, speed: number): AppThunk<boolean> {
  return (dispatch, getState) => {
    const { keeps } = getState().session;
    return dispatch(
      retime('set the speed', clipId, (map) => {
        const ready = compile(map);
        const index = spanIndexAt(ready, frame);
        return isPlateau(map.spans[index]!) && speed > 0
          ? setPlateauSpeed(map, index, speed, keeps)
          : setSpeed(map, { from: ready.times[index]!, to: ready.times[index + 1]! }, speed, keeps);
      }),
    );
  };
}
