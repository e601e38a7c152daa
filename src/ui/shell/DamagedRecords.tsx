'use client';

import { useEffect, useState } from 'react';
import type { Damaged } from '@/store/damaged';
import { download } from '../download';
import { SureButton } from '../primitives/SureButton';

const NAMES: Readonly<Record<string, string>> = {
  attempts: 'session',
  entries: 'line of a session’s log',
  own: 'day of own data',
  keep: 'saved state of the',
  past: 'session put aside',
  trades: 'trade',
  remarks: 'words about a trade',
  imports: 'file taken in',
  afters: 'trade’s end of day',
  pictures: 'picture',
  pages: 'page',
  mappings: 'mapping of columns',
  rehearsals: 'rehearsal',
  days: 'day of a rehearsal',
};
const keyText = (key: IDBValidKey): string => (Array.isArray(key) ? key.join(' ') : String(key));

/**
 * Records that cannot be read and are left out: which they are, out as a file, and set aside on request. Looked for in
 * some stores, or in all. `none`: said where there are none; without it nothing is shown then.
 */
export function DamagedRecords({ stores, none }: { stores?: readonly string[]; none?: string }) {
  const [found, setFound] = useState<Damaged[] | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const wanted = stores?.join();
  useEffect(() => {
    let current = true;
    void import('@/store/damaged')
      .then(({ findDamaged }) => findDamaged(wanted?.split(',')))
      .then((list) => current && setFound(list))
      .catch((e: unknown) => current && setTold(e instanceof Error ? e.message : String(e)));
    return () => {
      current = false;
    };
  }, [wanted]);
  const out = async (d: Damaged) => {
    const { damagedText } = await import('@/store/damaged');
    download(`damaged-${d.store}-${keyText(d.key)}.json`, 'application/json', await damagedText(d));
  };
  const away = async (d: Damaged) => {
    const { setAside } = await import('@/store/damaged');
    await setAside(d);
    setFound((list) => list?.filter((x) => x !== d) ?? null);
    const next =
      d.store === 'keep' ? 'Load again: the session is built anew from its log' : 'nothing reads it any more';
    setTold(`The ${NAMES[d.store] ?? d.store} ${keyText(d.key)} is set aside: ${next}.`);
  };
  if (told === null && (found === null || found.length === 0))
    return found && none ? <p className="text-quiet">{none}</p> : null;
  return (
    <section className="panel px-3 py-2 text-[13px]" aria-label="Damaged records">
      {told && <p role="status">{told}</p>}
      {found && found.length > 0 && (
        <>
          <h2 className="font-semibold">
            ⚠ {found.length} {found.length === 1 ? 'record is' : 'records are'} damaged and left out
          </h2>
          <ul>
            {found.slice(0, 50).map((d) => (
              <li key={`${d.store} ${keyText(d.key)}`} className="flex items-center gap-3 py-0.5">
                <span className="num">
                  {NAMES[d.store] ?? d.store} {keyText(d.key)}: {d.why}
                </span>
                <button
                  type="button"
                  className="btn shrink-0 py-0 whitespace-nowrap"
                  onClick={() => void out(d)}
                >
                  Out as a file
                </button>
                <SureButton
                  label="Set it aside"
                  sure="Really set it aside"
                  className="btn shrink-0 py-0 whitespace-nowrap"
                  act={() => void away(d)}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
