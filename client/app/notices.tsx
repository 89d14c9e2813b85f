export { NoticesPlace as default } from '../src/places/handbook/notices-place';
