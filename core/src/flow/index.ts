export { looksSame, mostDifferent } from './repeat';
export { InBetween, planarBytes, type FoundMovement, type MadePicture, type PlanarPicture } from './in-between';
