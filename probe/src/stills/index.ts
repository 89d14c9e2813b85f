export { archiveParts } from './archive';
export { gapsIn, numberedRuns, type NumberedRun } from './numbering';
