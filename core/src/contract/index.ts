export * from './comparison.ts';
export * from './levels.ts';
export * from './design.ts';
export * from './joining.ts';
export * from './flat.ts';
