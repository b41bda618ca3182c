export * from './accounts';
export * from './studio';
export * from './jobs';
export * from './library';
export * from './presets';
export * from './states';
export * from './people';
export * from './presence';
