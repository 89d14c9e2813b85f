import type { Target } from '@hastig/core';
import { addEffectSource, layEffect } from '@hastig/core';
import { inWorker, type WantedEffect } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { rearrange } from './edit';
import { messageSet } from './session-slice';
import type { AppThunk } from './store';
import { uploadFile } from './upload-file';
import { newId } from './new-id';

interface AddedEffect {
  wanted: WantedEffect;
  /** What the file is called, without its ending. */
  name: string;
  containerId: string;
  /** Frames it is laid on, all at once. */
  targets: readonly Target[];
  /** Whether its rise lasts as long as the ramp up to each. */
  follow: boolean;
  /** The track it is to lie on, if that is free there. */
  track?: string;
}

/** Makes an effect, keeps it with the project's footage unless it is there, and lays it on each target. */
export function addEffect({ wanted, name, containerId, targets, follow, track }: AddedEffect): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const { bytes, rise, loudest } = await inWorker((api) => api.makeEffect(wanted));
    const file = new File([bytes], `${name}.wav`, { type: 'audio/wav' });
    let stored = false;
    await dispatch(
      uploadFile(file, ({ sha256, facts }) => {
        stored = true;
        dispatch(
          rearrange(`add ${name}`, (project) => {
            const known = project.sources.find((source) => source.sha256 === sha256);
            const id = known?.id ?? `source-${nanoid(10)}`;
            const made = { id, name: file.name, sha256, facts };
            const there = known ? project : addEffectSource(project, made, { rise, loudest }, newId);
            return layEffect(there, containerId, id, targets, { follow, newId, ...(track && { track }) });
          }),
        );
      }),
    );
    if (!stored) dispatch(messageSet(`${name} wasn’t added. See why in Footage.`));
  };
}
