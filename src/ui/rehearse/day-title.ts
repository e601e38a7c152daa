import type { RehearsalDay } from '@/core/rehearsal';
import { PRACTICE_DAYS } from '@/core/sim';

/** The kind of a rehearsed day. */
export const dayTitle = (d: RehearsalDay): string =>
  d.kind === 'own' ? 'your own data' : (PRACTICE_DAYS.find((p) => p.id === d.id)?.title ?? d.id);

/** Which day it is: its kind and variation, or its date. */
export const dayName = (d: RehearsalDay): string => (d.kind === 'own' ? d.date : `${dayTitle(d)} ${d.seed}`);
