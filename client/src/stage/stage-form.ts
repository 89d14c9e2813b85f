import { createContext, useContext } from 'react';

/**
 * How the stage lies: its numbers and controls beneath the picture, beside it in a strip, or over a picture that fills the screen.
 */
export type StageForm = 'stacked' | 'strip' | 'full';

export const StageFormContext = createContext<StageForm>('stacked');

export const useStageForm = (): StageForm => useContext(StageFormContext);
