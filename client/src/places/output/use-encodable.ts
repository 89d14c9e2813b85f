import type { OutputForm } from '@hastig/contract';
import type { Size } from '@hastig/core';
import { encodable, type Encodable } from '@hastig/engine';
import { useEffect, useState } from 'react';

/** What this device has encoders for, of pictures of a size; undefined while that is not known. */
export function useEncodable({ width, height }: Size, encoder: OutputForm['encoder']): Encodable | undefined {
  const [found, setFound] = useState<Encodable>();
  useEffect(() => {
    let wanted = true;
    encodable({ width, height, ...(encoder && { encoder }) }).then(
      (answer) => wanted && setFound(answer),
      // Where it can't be told, the render says what is wrong.
      () => wanted && setFound(undefined),
    );
    return () => {
      wanted = false;
    };
  }, [width, height, encoder]);
  return found;
}
