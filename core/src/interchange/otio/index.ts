export { writeOtio } from './write';
export { readOtio, OtioUnreadable } from './read';
export { linearPieces } from './pieces';
