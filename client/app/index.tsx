export { ProjectsPlace as default } from '../src/places/projects/projects-place';
