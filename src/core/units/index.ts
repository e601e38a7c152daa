export * from './calendar.ts';
export * from './money.ts';
export type { Part } from './part.ts';
export * from './price.ts';
export type { Shelf } from './shelf.ts';
export * as shelf from './shelf.ts';
export * from './side.ts';
export * from './text.ts';
export * from './time.ts';
