export { DOUBTFUL, PointTracker, type Found, type TrackBox } from './point-tracker';
export { pointsOf, wholeTrack, type TrackedPoint } from './points';
