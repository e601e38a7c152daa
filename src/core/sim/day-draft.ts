import type { NewsItem } from '../market/index.ts';
import type { Hours } from '../units/index.ts';
import type { Carry } from './carry.ts';
import type { CourseKind } from './courses.ts';
import type { Phase } from './plan.ts';
import type { Lesson, PracticeDay } from './practice-days.ts';
import type { Random } from './random.ts';

export const INDEX_SYMBOL = 'FOXID';

/** What one company does that is out of the ordinary. */
export interface Role {
  /** How far its news moves it, as a fraction; 0 when only the volume is told. */
  gap: number;
  course?: CourseKind;
  lesson?: Lesson | null;
}

/** Everything that is drawn for one day. */
export interface Draft {
  r: Random;
  /** A stream of draws of its own. */
  stream(name: string): Random;
  hours: Hours;
  date: string;
  spec: Pick<PracticeDay, 'volume' | 'lesson'>;
  /** Of whom the first day is told: it goes as it is told. */
  toldOf: ReadonlySet<string>;
  mood: readonly Phase[];
  roles: Map<string, Role>;
  surges: Set<string>;
  news: NewsItem[];
  carry: Carry | null;
}
