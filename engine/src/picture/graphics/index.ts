export { openGraphics } from './graphics';
export { GraphicsSum } from './graphics-sum';
