import { inWorker, type WantedEffect } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';

/** Plays effects to listen to them, one at a time; what is heard ends with what shows it. */
export function useAudition(): { heard: string | null; hear(key: string, wanted: WantedEffect): void; stop(): void } {
  const [heard, setHeard] = useState<string | null>(null);
  const playing = useRef<{ player: HTMLAudioElement; address: string } | null>(null);
  const asked = useRef(0);
  const silence = (): void => {
    playing.current?.player.pause();
    if (playing.current) URL.revokeObjectURL(playing.current.address);
    playing.current = null;
  };
  const stop = (): void => {
    asked.current++;
    silence();
    setHeard(null);
  };
  const hear = (key: string, wanted: WantedEffect): void => {
    stop();
    const mine = asked.current;
    setHeard(key);
    inWorker((api) => api.makeEffect(wanted))
      .then(({ bytes }) => {
        if (asked.current !== mine) return undefined;
        const address = URL.createObjectURL(new Blob([bytes], { type: 'audio/wav' }));
        const player = new Audio(address);
        playing.current = { player, address };
        player.onended = stop;
        return player.play();
      })
      // What cannot be played is not heard; the button shows it.
      .catch(() => (asked.current === mine ? stop() : undefined));
  };
  useEffect(
    () => () => {
      asked.current++;
      silence();
    },
    [],
  );
  return { heard, hear, stop };
}
