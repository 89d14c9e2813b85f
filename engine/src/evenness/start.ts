import type { Program, ProgramSpan } from '@hastig/core';
import { proxy } from 'comlink';
import type { SourceLocations } from '../media/source-pool';
import { running, type Running } from '../worker/handle';

/**
 * Finds how far what moves goes from picture to picture, in a worker of its own, see `measureSteps`.
 *
 * @param onProgress told the share that is done
 * @param span what of it
 */
export const startSteps = (
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
  span: ProgramSpan,
): Running<Float32Array> => running((api) => api.steps(program, sources, proxy(onProgress), span));
