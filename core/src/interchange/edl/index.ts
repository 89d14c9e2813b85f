export { EdlUnreadable, readEdl } from './read';
export { EdlUnwritable, writeEdl } from './write';
