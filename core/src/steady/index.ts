export { cameraEnd, cameraFor, cameraMoves, keptMoves, withCamera } from './camera-moves';
export * from './camera-path';
export * from './clip-steady';
export * from './path';
export { cubicShares, steadiedPicture } from './warp';
