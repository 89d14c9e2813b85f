import { createContext, useContext } from 'react';

/**
 * How the stage lies: its numbers and controls beneath the picture (as few as fit where that is narrow), beside it in a strip, or
 * over a picture that fills the screen.
 */
export type StageForm = 'stacked' | 'narrow' | 'strip' | 'full';

export const StageFormContext = createContext<StageForm>('stacked');

export const useStageForm = (): StageForm => useContext(StageFormContext);

/** Whether there is room only for the numbers and controls that are used most. */
export const isSmall = (form: StageForm): boolean => form === 'strip' || form === 'narrow';
