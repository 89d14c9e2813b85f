export { InBetween, planarBytes, type FoundMovement, type MadePicture, type PlanarPicture } from './in-between';
