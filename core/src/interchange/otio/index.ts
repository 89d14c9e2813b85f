export { writeOtio, type WrittenOtio } from './write';
export { readOtio, OtioUnreadable, type ReadOtio } from './read';
export { linearPieces, type LinearPiece } from './pieces';
