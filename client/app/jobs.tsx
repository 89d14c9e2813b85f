export { JobsPlace as default } from '../src/places/jobs/jobs-place';
