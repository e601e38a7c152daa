'use client';

import { useEffect } from 'react';
import { explain, LANGUAGE_VERSION, oneLine, parseScript, printScript } from '@/core/language';
import { useSettings } from '../settings';

/** Scripts that are written in forms of an earlier version: the same anew, for one yes. */
export function Retired() {
  const scripts = useSettings((s) => s.scripts);
  const set = useSettings((s) => s.set);
  const old = scripts
    .filter((s) => s.language < LANGUAGE_VERSION)
    .map((s) => ({ script: s, parsed: parseScript(s.text) }));
  const changed = old.filter(({ parsed }) => parsed.retired || parsed.problems.length > 0);
  useEffect(() => {
    // What means the same in both versions needs no yes.
    if (old.length > 0 && changed.length === 0)
      set({ scripts: scripts.map((s) => ({ ...s, language: LANGUAGE_VERSION })) });
  }, [old.length, changed.length, scripts, set]);
  // Keys that hold what is not sent any more: an action under a condition that would go at once.
  const unsent = scripts.flatMap((script) => {
    const problem = parseScript(script.text).problems.find((p) => p.code === 'whose line');
    return problem ? [{ script, problem }] : [];
  });
  if (changed.length === 0)
    return unsent.length === 0 ? null : (
      <section className="border-b border-line px-3 py-2 text-[13px]" aria-label="Scripts that are not sent">
        <p className="font-semibold">⚠ These scripts are not sent until you change them:</p>
        <ul className="my-1">
          {unsent.map(({ script, problem }) => (
            <li key={script.id}>
              <b>{script.name}</b>: <code className="num">{script.text.replaceAll('\n', ' ⏎ ')}</code>{' '}
              {explain(problem)}
            </li>
          ))}
        </ul>
      </section>
    );
  const rewrite = () =>
    set({
      scripts: scripts.map((s) => {
        const parsed = parseScript(s.text);
        return {
          ...s,
          language: LANGUAGE_VERSION,
          text: parsed.problems.length === 0 ? printScript(parsed) : s.text,
        };
      }),
    });
  return (
    <section className="border-b border-line px-3 py-2 text-[13px]" aria-label="Earlier forms">
      <p>
        The language has new words for these. The new text means the same; what cannot be told is left for you
        to mend.
      </p>
      <ul className="my-1">
        {changed.map(({ script, parsed }) => (
          <li key={script.id} className="num">
            <b className="font-sans">{script.name}</b>: <s className="text-quiet">{oneLine(script.text)}</s>{' '}
            {parsed.problems.length === 0 ? oneLine(printScript(parsed)) : '⚠ needs a look'}
          </li>
        ))}
      </ul>
      <button type="button" className="btn" onClick={rewrite}>
        Write them anew
      </button>
    </section>
  );
}
