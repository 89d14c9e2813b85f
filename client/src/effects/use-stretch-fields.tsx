import type { Stretch } from '@hastig/contract';
import { EditRefused } from '@hastig/core';
import { useState, type ReactNode } from 'react';
import { Choice } from '../ui/choice';
import type { ExtentChoice } from './use-extent';

interface ChosenStretch {
  fields: ReactNode;
  /** Undefined for all of it. */
  over: Stretch | undefined;
  /** Why there is no such stretch; for the edit to throw. */
  refused: EditRefused | undefined;
}

/** For which stretch of a clip or the film something holds: the choices, and what is chosen. */
export function useStretchFields({ fields, chosen }: ExtentChoice, owner: 'clip' | 'film'): ChosenStretch {
  const { extent, by } = fields;
  const [picked, setPicked] = useState(extent.initial);
  const [stays, setStays] = useState(by.initial);
  // What was marked may have gone.
  const there = extent.options.some(({ value }) => value === picked) ? picked : extent.initial;
  const texts = { extent: there, owner };
  return {
    ...stretchOr(() => chosen({ owner, extent: there, by: stays }).over),
    fields: extent.when!(texts) ? (
      <>
        <Choice label={extent.label} value={there} options={extent.options} onChange={setPicked} />
        {by.when!(texts) ? <Choice label={by.label} value={stays} options={by.options} onChange={setStays} /> : null}
      </>
    ) : null,
  };
}

/** What is chosen, or why it can't be: drawing goes on either way. */
function stretchOr(choose: () => Stretch | undefined): Pick<ChosenStretch, 'over' | 'refused'> {
  try {
    return { over: choose(), refused: undefined };
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    return { over: undefined, refused: error };
  }
}
