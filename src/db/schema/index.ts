export * from './accounts';
export * from './studio';
