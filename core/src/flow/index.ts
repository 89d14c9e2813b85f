export { InBetween, planarBytes, type MadePicture, type PlanarPicture } from './in-between';
