export * from './cues';
export * from './frames';
export * from './keys';
