export * from './path';
export { cubicShares, steadiedPicture, PHASES } from './warp';
