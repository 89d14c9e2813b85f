export { DOUBTFUL, PointTracker, type Found, type TrackBox } from './point-tracker';
export { mendedTrack, pointsOf, wholeTrack, type TrackedPoint } from './points';
