import { countProgram, type Program, type ProgramNumbers } from '@hastig/core';
import { useEffect, useState } from 'react';
import { inPieces } from '../../ui/in-pieces';

/** The numbers of a program; undefined while they are counted. */
export function useNumbers(program: Program | undefined): ProgramNumbers | undefined {
  const [counted, setCounted] = useState<{ of: Program; numbers: ProgramNumbers }>();
  useEffect(() => {
    if (!program || program.length === 0) return undefined;
    const stop = new AbortController();
    let numbers: ProgramNumbers | undefined;
    void inPieces(countProgram(program), (now) => (numbers = now), { signal: stop.signal }).then(
      (whole) => whole && numbers && setCounted({ of: program, numbers }),
    );
    return () => stop.abort();
  }, [program]);
  return counted?.of === program ? counted?.numbers : undefined;
}
