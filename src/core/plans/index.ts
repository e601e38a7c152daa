export { type BarStep, type PlanOnBars, planOnBars } from './bars.ts';
export { movedExit, partedExits } from './moved.ts';
export { type PictureExit, type PlanPicture, pictureOf } from './picture.ts';
