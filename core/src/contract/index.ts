export * from './comparison.ts';
export * from './design.ts';
