export * from './clip-steady';
export * from './path';
export { cubicShares, steadiedPicture } from './warp';
