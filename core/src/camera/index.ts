export { CameraTracker, type CameraMove } from './camera-tracker';
