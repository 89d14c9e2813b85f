import { inWorker, type WantedEffect } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';

interface Audible {
  id: string;
  name: string;
  wanted: WantedEffect;
}

interface Audition {
  /** The id of what is played. */
  heard: string | null;
  hear(effect: Audible): void;
  stop(): void;
}

/**
 * Plays effects to listen to them, one at a time; what is heard ends with what shows it.
 *
 * @param onFault told the name of what could not be played
 */
export function useAudition(onFault: (name: string) => void): Audition {
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
  const hear = ({ id, name, wanted }: Audible): void => {
    stop();
    const mine = asked.current;
    setHeard(id);
    inWorker((api) => api.makeEffect(wanted))
      .then(({ bytes }) => {
        if (asked.current !== mine) return undefined;
        const address = URL.createObjectURL(new Blob([bytes], { type: 'audio/wav' }));
        const player = new Audio(address);
        playing.current = { player, address };
        player.onended = stop;
        return player.play();
      })
      .catch(() => {
        if (asked.current !== mine) return;
        stop();
        onFault(name);
      });
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
