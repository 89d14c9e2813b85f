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
  const output = useRef<AudioContext | null>(null);
  const playing = useRef<AudioBufferSourceNode | null>(null);
  const asked = useRef(0);
  const stop = (): void => {
    asked.current++;
    playing.current?.disconnect();
    playing.current = null;
    setHeard(null);
  };
  const hear = ({ id, name, wanted }: Audible): void => {
    stop();
    const mine = asked.current;
    setHeard(id);
    // Within the tap itself: browsers let nothing sound that was not begun by one.
    const context = (output.current ??= new AudioContext());
    const woken = context.resume();
    inWorker((api) => api.makeEffect(wanted))
      .then(async ({ bytes }) => {
        const buffer = await context.decodeAudioData(bytes.buffer);
        await woken;
        if (asked.current !== mine) return;
        const player = new AudioBufferSourceNode(context, { buffer });
        playing.current = player;
        player.connect(context.destination);
        player.onended = () => asked.current === mine && stop();
        player.start();
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
      playing.current?.disconnect();
      void output.current?.close();
    },
    [],
  );
  return { heard, hear, stop };
}
