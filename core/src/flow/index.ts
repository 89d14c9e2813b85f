export { InBetween, planarBytes, type PlanarPicture } from './in-between';
