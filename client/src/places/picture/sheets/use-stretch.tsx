import type { RetimeMap, Stretch } from '@hastig/contract';
import { useState, type ReactNode } from 'react';
import { useExtent } from '../../../effects/use-extent';
import { Choice } from '../../../ui/choice';

interface StretchOf {
  clipId: string;
  map: RetimeMap;
  before: { over?: Stretch } | undefined;
}

/** For which stretch of a clip something holds: the choices, and what is chosen. */
export function useStretch(of: StretchOf): { fields: ReactNode; over: Stretch | undefined } {
  const { fields, chosen } = useExtent(of);
  const { extent, by } = fields;
  const [picked, setPicked] = useState(extent.initial);
  const [stays, setStays] = useState(by.initial);
  // What was marked may have gone.
  const there = extent.options.some(({ value }) => value === picked) ? picked : extent.initial;
  const texts = { extent: there, owner: 'clip' };
  return {
    over: chosen({ owner: 'clip', extent: there, by: stays }).over,
    fields: extent.when!(texts) ? (
      <>
        <Choice label={extent.label} value={there} options={extent.options} onChange={setPicked} />
        {by.when!(texts) ? <Choice label={by.label} value={stays} options={by.options} onChange={setStays} /> : null}
      </>
    ) : null,
  };
}
