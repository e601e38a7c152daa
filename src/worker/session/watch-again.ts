import { advance, apply } from '../../session/engine.ts';
import type { LogEntry } from '../../session/log.ts';
import type { Hosted } from './hosted.ts';

/** Lets time pass; what was done in an attempt that is watched again is done at its times. Never past the end of a day, unless that was done then. */
export function passTo(
  { engine, coming }: Pick<Hosted, 'engine' | 'coming'>,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean = () => false,
): LogEntry[] {
  const out: LogEntry[] = [];
  for (let next = coming[0]; next?.input && next.at <= until; next = coming[0]) {
    out.push(...advance(engine, next.at, enough));
    if (enough(out) || engine.market.now() < next.at) return out;
    coming.shift();
    out.push(...apply(engine, next.input, next.deeds ?? null).entries);
  }
  out.push(...advance(engine, until, enough));
  return out;
}
