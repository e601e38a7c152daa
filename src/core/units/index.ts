export * from './money.ts';
export * from './price.ts';
export * from './side.ts';
export * from './time.ts';
