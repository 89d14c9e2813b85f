export { effectKinds, EFFECT_LEAD, effects, searchEffects, type Effect, type EffectKind } from './catalogue';
export { noiseOf } from './noise';
export { makeEffect, whooshFrom } from './make-effect';
export { speedCourse, speedPeaks, type SpeedCourse } from './speed-peaks';
export * from './targets';
export * from './lay-effect';
