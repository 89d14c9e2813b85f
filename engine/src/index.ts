export { locationOf, type MediaLocation } from './media/location';
export { codecName } from './media/codec-name';
export { silentWords } from './media/hearing';
export { inspectFile } from './media/inspect';
export { Stage } from './stage/stage';
export type { StageLook } from './stage/look';
export type { ReadyRange } from './stage/ready-pictures';
export type { MadePicture } from './stage/stage-events';
export type { Clicks } from './stage/clicks';
export type { Levels } from './stage/level-watch';
export { ClickRun } from './stage/click-run';
export { wallTime } from './stage/clock';
export type { Punctuality } from './stage/punctuality';
export {
  clipOrder,
  contentsOf,
  filmOrder,
  namePartsFor,
  ordersFor,
  sizeFor,
  spansFor,
  type Order,
  type RangeChoice,
} from './render/orders';
export type { RenderJob, RenderProgress, RenderResult, RenderTarget } from './render/job';
export { encodable, type Encodable } from './render/encodable';
export { describeRender, listRenders, readRender, removeRender, type StoredRender } from './render/stored-renders';
export { estimate, startRender, type RunningRender } from './render/start';
export { startTrack } from './track/start';
export { startCamera, startCameras } from './camera/start';
export { startLoudness } from './loudness/start';
export { startSteps } from './evenness/start';
export { searchMoments } from './moments/search';
export { fetchEnvelope, searchBeats } from './beats/search';
export { searchSync } from './sync/search';
export type { WantedEffect } from './sound-effects/make-file';
export { startDerive, type RunningDerive } from './derive/start';
export { drawPictureIn, type Drawable } from './picture/draw';
export { forgetFlows } from './picture/flow-store';
export { Thumbs } from './thumbs/thumbs';
export type { WantedThumb } from './thumbs/thumbnailer';
export { inWorker, startWorker, type EngineHandle, type Running } from './worker/handle';
export { archiveParts, gapsIn, numberedRuns, type NumberedRun } from '@hastig/probe/stills';
