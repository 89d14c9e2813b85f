export * from './formats';
export * from './gif';
export * from './level';
export * from './marks';
export * from './names';
export * from './presets';
export * from './sizes';
export * from './spans';
