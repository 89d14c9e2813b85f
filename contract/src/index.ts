export { LONGEST_NAME, MOST, MOST_FRAMES, MOST_POSITIONS } from './schema/common';
export * from './schema/rate';
export * from './schema/timing';
export * from './schema/media';
export * from './schema/derived';
export * from './schema/keyed';
export * from './schema/picture';
export * from './schema/exposure';
export * from './schema/effects';
export * from './schema/track';
export * from './schema/sound';
export * from './schema/output';
export * from './schema/sequence';
export * from './schema/clip';
export * from './schema/versions';
export * from './schema/project';
export * from './schema/api';
export * from './schema/jobs';
export * from './text';
export * from './problem';
export { describeErrors } from './validate';
export {
  checkClip,
  checkEffects,
  checkExposures,
  checkJobChange,
  checkJobSettings,
  checkMachineFacts,
  checkMapFile,
  checkMaster,
  checkMediaFacts,
  checkNewJob,
  checkNewMachine,
  checkNewProject,
  checkOutputForm,
  checkPartDone,
  checkPartFailed,
  checkPartHeard,
  checkProjectDocument,
  checkProjectFile,
  checkProjectPatch,
  checkTrackSound,
  checkVersionName,
  type Checked,
} from './validate';
export * from './validate-change';
export * from './migrate';
