export { addsRight } from './adds-right';
export { openGraphics } from './graphics';
export { GraphicsSum } from './graphics-sum';
