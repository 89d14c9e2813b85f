import {
  compareSides,
  even,
  evennessOf,
  frameOf,
  sourcesOf,
  type CompareSide,
  type Evenness,
  type Program,
  type ProgramSpan,
} from '@hastig/core';
import { estimate, startSteps, type Running } from '@hastig/engine';
import { useEffect, useRef, useState } from 'react';
import { useAppSelector, useSession } from '../../store/hooks';
import { sourceLocations } from '../../store/selectors';

/** What was found out of a program by making its pictures. */
export interface Measured {
  of: Program;
  /** The stretch whose steps were looked at, in frames. */
  span: ProgramSpan;
  evenness: Evenness;
  /** Seconds that a render takes, and bytes of its file. */
  seconds: number | undefined;
  bytes: number;
}

interface Measuring {
  measured: Partial<Record<CompareSide, Measured>>;
  /** How far it is, 0 to 1; undefined where nothing is being measured. */
  share: number | undefined;
  fault: string | undefined;
  begin(): void;
  cancel(): void;
}

/** Makes the pictures of both sides, between in and out where they are set, to find how evenly they move, and how long a render of each takes. */
export function useMeasured(programs: Record<CompareSide, Program | undefined>): Measuring {
  const sources = useAppSelector(sourceLocations);
  const files = useAppSelector((state) => state.compare.files);
  const { marks } = useSession('marks');
  const [measured, setMeasured] = useState<Partial<Record<CompareSide, Measured>>>({});
  const [share, setShare] = useState<number>();
  const [fault, setFault] = useState<string>();
  const running = useRef<Running<Float32Array>>(undefined);
  const round = useRef(0);
  const cancel = (): void => {
    round.current++;
    running.current?.cancel();
    setShare(undefined);
  };
  // Nobody waits for it once the place is left.
  useEffect(
    () => () => {
      round.current++;
      running.current?.cancel();
    },
    [],
  );

  const spanIn = ({ length }: Program): ProgramSpan => ({
    from: Math.min(marks.from ?? 0, length - 1),
    to: Math.min(marks.to ?? length, length),
  });
  // Nothing is known of another stretch.
  const isOf = (found: Measured | undefined, program: Program | undefined): boolean => {
    if (!found || !program || found.of !== program) return false;
    const { from, to } = spanIn(program);
    return found.span.from === from && found.span.to === to;
  };

  const measure = async (): Promise<void> => {
    const mine = ++round.current;
    const current = (): boolean => round.current === mine;
    setFault(undefined);
    setShare(0);
    try {
      for (const [index, side] of compareSides.entries()) {
        const program = programs[side];
        if (!program || program.length === 0 || isOf(measured[side], program)) continue;
        const all = { ...sources, ...files };
        const needed = Object.fromEntries(sourcesOf(program).map((id) => [id, all[id]!]));
        const span = spanIn(program);
        const told = (done: number): void => void (current() && setShare((index + done) / compareSides.length));
        running.current = startSteps(program, needed, told, span);
        const steps = await running.current.result;
        if (!current()) return;
        const { width, height } = frameOf(program);
        const job = { format: 'mp4', program, sources: needed, width: even(width), height: even(height), rate: program.rate } as const; // prettier-ignore
        const { seconds, bytes } = await estimate({ ...job, quality: 'high', sound: true, title: '', target: { to: 'storage', name: '' } }); // prettier-ignore
        if (!current()) return;
        setMeasured((before) => ({
          ...before,
          [side]: { of: program, span, evenness: evennessOf(steps), seconds, bytes },
        }));
      }
    } catch (error) {
      if (current()) setFault(`The pictures can’t be made: ${(error as Error).message}`);
    }
    if (current()) setShare(undefined);
  };
  const now: Partial<Record<CompareSide, Measured>> = {};
  for (const side of compareSides) if (isOf(measured[side], programs[side])) now[side] = measured[side]!;
  return { measured: now, share, fault, begin: () => void measure(), cancel };
}
